import { move, transferableSymbol, valueSymbol } from 'piscina';
import { NotUnpacked, unpack } from '../bundle/unpack.ts';

/** What an archive unpacks to, or why it does not. */
export type Unpacked =
  | { readonly files: ReadonlyMap<string, Uint8Array<ArrayBuffer>> }
  | { readonly where: string; readonly why: string };

/** Unpacks in a thread, as {@link unpack} does; what it made goes out as it is, and is not copied. */
export default async function unpackInThread(bytes: Uint8Array): Promise<Unpacked> {
  try {
    const files = await unpack(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    const moved = {
      [transferableSymbol]: [...files.values()].map(({ buffer }) => buffer),
      [valueSymbol]: { files },
    };
    return move(moved as never) as unknown as Unpacked;
  } catch (error) {
    if (!(error instanceof NotUnpacked)) throw error;
    return { where: error.where, why: error.why };
  }
}
