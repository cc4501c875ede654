import type { VisitorFacts } from "@/core/answers/visitor";

/** A request without its body: all that a page which is only looked at needs of it. */
export type Asked = Pick<Request, "method" | "url"> & { headers: Pick<Headers, "get"> };

/** What a request says of whoever asks, as `core/answers/visitor` judges it. */
export type Visitor = Pick<VisitorFacts, "method" | "agent" | "purpose" | "accept" | "acceptLanguage">;

export function visitorOf({ method, headers }: Asked): Visitor {
  const purposes = ["sec-purpose", "purpose", "x-purpose", "x-moz"].map((name) => headers.get(name));
  return {
    method,
    agent: headers.get("user-agent"),
    purpose: purposes.find(Boolean) ?? null,
    accept: headers.get("accept"),
    acceptLanguage: headers.get("accept-language"),
  };
}
