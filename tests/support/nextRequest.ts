import { jest } from "@jest/globals";

/**
 * The request that pages and actions believe they answer. Import it before anything that imports Next.js: a file of
 * tests whose parts need it loads them by `await import(...)`.
 */
export const request = { headers: new Headers(), cookies: new Map<string, string>() };

/** How Next.js leaves a page or an action on purpose: the address of a redirect, or "not found". */
export class Left extends Error {}

jest.unstable_mockModule("next/headers", () => ({
  headers: async () => request.headers,
  cookies: async () => ({
    get: (name: string) => (request.cookies.has(name) ? { name, value: request.cookies.get(name) } : undefined),
    getAll: () => [...request.cookies].map(([name, value]) => ({ name, value })),
    set: (name: string, value: string) => request.cookies.set(name, value),
    delete: (name: string) => request.cookies.delete(name),
  }),
}));
jest.unstable_mockModule("next/navigation", () => ({
  redirect: (to: string) => {
    throw new Left(to);
  },
  notFound: () => {
    throw new Left("not found");
  },
  unstable_rethrow: (error: unknown) => {
    if (error instanceof Left) throw error;
  },
}));
