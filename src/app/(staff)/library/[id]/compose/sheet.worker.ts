// pdf.js in a worker of its own: it listens as soon as it is loaded.
import "pdfjs-dist/build/pdf.worker.mjs";
