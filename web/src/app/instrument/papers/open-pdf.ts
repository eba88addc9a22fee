import type { PDFDocumentProxy } from 'pdfjs-dist';

/** A PDF that is open; closing it ends what works for it. */
export interface OpenPdf {
  readonly pages: number;
  /** Draws a page at a width, in pixels of the page. */
  draw(page: number, canvas: HTMLCanvasElement, width: number): Promise<void>;
  close(): Promise<void>;
}

/**
 * Opens a PDF to be drawn page by page. Nothing in it runs: neither its scripts nor its forms are handed to anything, and
 * what it points at is not fetched. Throws where it is broken or asks for a password.
 */
export async function openPdf(address: string): Promise<OpenPdf> {
  const { getDocument, PDFWorker } = await import('pdfjs-dist');
  const port = new Worker(new URL('./pdf.worker', import.meta.url), { type: 'module' });
  const worker = PDFWorker.create({ port });
  const task = getDocument({
    url: address,
    worker,
    enableXfa: false,
    isEvalSupported: false,
    useWasm: false,
    useSystemFonts: false,
    disableAutoFetch: true,
    disableStream: true,
    cMapUrl: '/pdf/cmaps/',
    cMapPacked: true,
    standardFontDataUrl: '/pdf/standard_fonts/',
    wasmUrl: '/pdf/wasm/',
  });
  const close = async (): Promise<void> => {
    await task.destroy();
    port.terminate();
  };
  try {
    return opened(await task.promise, close);
  } catch (error) {
    await close();
    throw error;
  }
}

function opened(document: PDFDocumentProxy, close: () => Promise<void>): OpenPdf {
  return {
    pages: document.numPages,
    close,
    draw: async (number, canvas, width) => {
      const page = await document.getPage(number);
      const dense = Math.min(2, globalThis.devicePixelRatio || 1);
      const plain = page.getViewport({ scale: 1 });
      const viewport = page.getViewport({ scale: (width / plain.width) * dense });
      canvas.width = Math.floor(viewport.width);
      canvas.height = Math.floor(viewport.height);
      canvas.style.aspectRatio = `${plain.width} / ${plain.height}`;
      await page.render({ canvas, viewport, annotationMode: 0 }).promise;
    },
  };
}
