export { actorName, seenBy, type Actor, type ClientActor, type StaffActor, type Stranger } from "./actor";
export { libraryRight, may, mayCall, rightsFor, sightOf, type Access } from "./access";
export { questionnaireFor, type Reached } from "./questionnaire-for";
export { appendToChart, chartByStaff } from "./append-to-chart";
export { fieldsOf } from "./fields-of";
export { memoryOf, planHolding, plansOf, type Planned, type Plans } from "./plans";
export { proofPractice } from "./proof-practice";
export { letterhead, logoOf, logoPath } from "./letterhead";
export { inOrder } from "./in-order";
export { idInput, instantInput, nothing, requestInput } from "./inputs";
export { bytesInput, takeFile, type TakenFile } from "./take-file";
export {
  command,
  notFound,
  query,
  statement,
  type Beforehand,
  type CommonError,
  type Context,
  type Ports,
  type UseCase,
} from "./use-case";
