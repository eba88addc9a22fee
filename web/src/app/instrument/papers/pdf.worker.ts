// The reader of PDFs works beside the page; it has no scripts of the PDF to run, for none are enabled.
import 'pdfjs-dist/build/pdf.worker.mjs';
