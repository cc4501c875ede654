export * from "./erase";
export * from "./many";
export * from "./mend";
export * from "./merge";
export * from "./selection";
export * from "./takeOut";
