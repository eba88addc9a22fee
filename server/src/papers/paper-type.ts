import { fileTypeFromBuffer } from 'file-type';
import { imageSize } from 'image-size';
import { paperTypes, showNumber, type PaperType } from '@coffer/contract';
import { faultyInput } from '../http/refusal.ts';

/** How far from its end a PDF must say that it ends (ISO 32000-2, annex C: within the last 1024 bytes). */
const tail = 1024;

/** The most points of a picture: an A3 page scanned at 600 points an inch has 70 million, and a browser takes four bytes for each. */
const mostPoints = 100_000_000;

/** The type of a file as its bytes tell, whatever it is called. Throws {@link Refusal} 422 where it is kept as no paper. */
export async function paperTypeOf(bytes: Uint8Array): Promise<PaperType> {
  if (bytes.length === 0) throw faultyInput([{ key: '', message: 'The file is empty.' }]);
  const found = (await fileTypeFromBuffer(bytes))?.mime;
  const type = paperTypes.find((each) => each === found);
  if (!type) {
    const is = found
      ? `this is of the type ${found}`
      : 'this is none of them by its bytes, whatever it is called';
    throw faultyInput([{ key: '', message: `A paper is a PDF, a PNG or a JPEG; ${is}.` }]);
  }
  if (type !== 'application/pdf') refuseVast(bytes);
  const end = Buffer.from(bytes.subarray(-tail)).toString('latin1');
  if (type === 'application/pdf' && !end.includes('%%EOF')) {
    throw faultyInput([
      { key: '', message: 'This PDF has no end: it was cut off on its way. Bring the whole file.' },
    ]);
  }
  return type;
}

/** Looks at how large a picture says that it is, and unpacks nothing of it. Throws {@link Refusal} 422 where nobody could look at it. */
function refuseVast(bytes: Uint8Array): void {
  const { width, height } = sizeOf(bytes);
  if (width * height <= mostPoints) return;
  const message = `This picture has ${showNumber(width)} × ${showNumber(height)} points; up to 100 million can be shown. Scan it less finely.`;
  throw faultyInput([{ key: '', message }]);
}

function sizeOf(bytes: Uint8Array): { readonly width: number; readonly height: number } {
  try {
    return imageSize(bytes);
  } catch {
    throw faultyInput([{ key: '', message: 'This picture is broken: it does not say how large it is.' }]);
  }
}

/** How files of a type end: the first is put where another stands. */
const endings: Readonly<Record<PaperType, readonly string[]>> = {
  'application/pdf': ['.pdf'],
  'image/png': ['.png'],
  'image/jpeg': ['.jpg', '.jpeg'],
};

/** The name that a paper is taken out under: it ends as its type does, whatever it was called when it was brought. */
export function fileNameOf(name: string, type: PaperType): string {
  const ends = endings[type];
  return ends.some((end) => name.toLowerCase().endsWith(end)) ? name : `${name}${ends[0] ?? ''}`;
}
