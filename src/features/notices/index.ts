export * from "./service";
