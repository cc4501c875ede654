import { unstable_rethrow } from "next/navigation";

/**
 * For `catch`, where the browser calls an action: what stands for its answer when the connection was lost. An action
 * that leads elsewhere is no loss.
 */
export const lost =
  <const T>(instead: T) =>
  (error: unknown): T => {
    unstable_rethrow(error);
    return instead;
  };
