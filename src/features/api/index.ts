export { handleApi } from "./http";
export * from "./keys";
export { openApiDocument } from "./openapi";
export { OPERATIONS } from "./operations";
