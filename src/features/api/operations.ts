import { ASKS } from "./asksOperations";
import { FEEDS } from "./feedsOperations";
import * as m from "./models";
import type { Operation } from "./operation";
import { PEOPLE } from "./peopleOperations";
import { VISITS } from "./visitsOperations";

/** What the client set up, by name and identifier. */
const SETTING: Operation[] = [
  ...(["services", "branches", "team-members", "tags"] as const).map(
    (path): Operation => ({
      id: `list${path[0].toUpperCase()}${path.slice(1).replace("-m", "M")}`,
      method: "GET",
      path: `/${path}`,
      scope: "visits:read",
      summary: `The client's ${path.replace("-", " ")}`,
      gives: { model: m.namedModel, many: true },
      run: async ({ setting }) => ({
        body: {
          items: {
            services: setting.services,
            branches: setting.branches,
            "team-members": setting.team,
            tags: setting.tags,
          }[path].map(({ id, name }) => ({ id, name })),
          next: null,
        },
      }),
    }),
  ),
];

/**
 * Every operation of the API: its address, what it takes, what it gives and what it does. The router and the OpenAPI
 * document are both made from this list.
 */
export const OPERATIONS: Operation[] = [...PEOPLE, ...VISITS, ...ASKS, ...FEEDS, ...SETTING];
