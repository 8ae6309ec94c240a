export { canonicalText, isDrawnPath, signedStatement, type SignatureMark, type SignedStatement } from './statement';
