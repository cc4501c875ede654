export { handleApi } from "./http";
export { type ApiScope, endKey, listKeys, makeKey, SCOPES } from "./keys";
export { OPERATIONS } from "./operations";
export { openApiDocument } from "./router";
