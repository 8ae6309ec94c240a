export { largestXliff, readXliff, type XliffFile, type XliffUnit } from "./read";
export { writeXliff } from "./write";
export { takeXliff, type Taken } from "./take";
