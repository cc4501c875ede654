export { handleApi } from "./http";
export { type ApiScope, endKey, listKeys, makeKey, SCOPES } from "./keys";
export { openApiDocument } from "./openapi";
export { OPERATIONS } from "./operations";
