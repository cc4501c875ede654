import { AsyncLocalStorage } from "node:async_hooks";

/**
 * What holds for a whole request, whatever code it runs. The web server begins one for each request (`inRequest`); the
 * framework's bundle and the server share it through the global object, as they do connections.
 */

/** Called when a request that only views was about to write; leaves to a page that says so. */
export type ViewOnly = { refused(): never };

type RequestState = { viewOnly: ViewOnly | null };

const shared = globalThis as typeof globalThis & { estimaRequest?: AsyncLocalStorage<RequestState> };

function storage(): AsyncLocalStorage<RequestState> {
  shared.estimaRequest ??= new AsyncLocalStorage();
  return shared.estimaRequest;
}

/** Runs the work of one request. */
export function inRequest<T>(work: () => T): T {
  return storage().run({ viewOnly: null }, work);
}

/** From here on nothing of this request may write: someone views as another person. Without a request, nothing. */
export function setViewOnly(viewOnly: ViewOnly): void {
  const state = storage().getStore();
  if (state) state.viewOnly = viewOnly;
}

/** Whether this request only views; null where it may write, and outside of requests. */
export function viewOnlyOfRequest(): ViewOnly | null {
  return storage().getStore()?.viewOnly ?? null;
}
