export * from "./practice";
export * from "./client";
export * from "./packet";
