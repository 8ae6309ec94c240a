export { canonicalText, intentSentence, isDrawnPath, signedStatement, type SignatureMark, type SignedStatement } from './statement';
