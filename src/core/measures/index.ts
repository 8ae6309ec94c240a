export * from "./statistics";
export * from "./change";
export * from "./course";
export * from "./trend";
export * from "./words";
export { trendSvg } from "./svg";
export * from "./policy";
export * from "./caseload";
export * from "./scores-file";
