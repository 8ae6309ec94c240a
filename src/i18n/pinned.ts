/**
 * A locale with its digits and calendar said outright. What they are by default differs between the server's and a
 * browser's edition of the Unicode locale data, and a page whose numbers change as its script starts is drawn twice.
 */
export const pinned = (locale: string): string => (locale.includes("-u-") ? locale : `${locale}-u-ca-gregory-nu-latn`);
