export {
  factsOf,
  makeIdentity,
  readPkcs12,
  type CertificateFacts,
  type Pkcs12Problem,
  type SealIdentity,
} from "./certificate";
export { sealPdf, type SealOrder } from "./seal";
export { ownTimeStamps, timeStampsFrom, type TimeStamps } from "./time-stamps";
