export * from "./files.ts";
export { observe } from "./crews.ts";
export * as truth from "./truth.ts";
