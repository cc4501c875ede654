export { handleApi } from "./http";
export { type ApiScope, endKey, listKeys, makeKey, SCOPES, scopesFor } from "./keys";
export { OPERATIONS } from "./operations";
export { openApiDocument } from "./router";
