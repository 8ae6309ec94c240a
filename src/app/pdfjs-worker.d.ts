/** pdf.js ships no types for the part that runs in a worker. */
declare module "pdfjs-dist/build/pdf.worker.mjs";
