import { AsyncLocalStorage } from "node:async_hooks";

/**
 * What holds for a whole request, whatever code it runs. The web server begins one for each request (`inRequest`); the
 * framework's bundle and the server share it through the global object, as they do connections.
 */

/** Called when a request that only views was about to write; leaves to a page that says so. */
export type ViewOnly = { refused(): never };

type RequestState = {
  viewOnly: ViewOnly | null;
  /** A form or action posted to a page, and whether an action of ours has begun. */
  post: "unread" | "begun" | null;
};

const shared = globalThis as typeof globalThis & { estimaRequest?: AsyncLocalStorage<RequestState> };

function storage(): AsyncLocalStorage<RequestState> {
  shared.estimaRequest ??= new AsyncLocalStorage();
  return shared.estimaRequest;
}

/** Runs the work of one request; `isPost` for a form or an action that is posted to a page. */
export function inRequest<T>(work: (state: Readonly<RequestState>) => T, isPost = false): T {
  const state: RequestState = { viewOnly: null, post: isPost ? "unread" : null };
  return storage().run(state, () => work(state));
}

/** An action of ours begins: what goes wrong in this request from here on is ours. */
export function beginAction(): void {
  const state = storage().getStore();
  if (state?.post) state.post = "begun";
}

/** Whether this request posts something of which no action has begun yet: nobody knows whether it can be read. */
export function isUnreadPost(): boolean {
  return storage().getStore()?.post === "unread";
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
