/** The worker's half of the reader of PDFs; importing it is all that is done with it. */
declare module 'pdfjs-dist/build/pdf.worker.mjs';
