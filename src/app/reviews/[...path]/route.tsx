import { languageOf } from "@/core/words/languages";
import { customerHtml, lostPage } from "@/features/answers";
import { loadReviewsPage, ReviewsPage } from "@/features/own-reviews";
import { isWelcomeClient } from "@/platform/publicLink";

type Context = { params: Promise<{ path: string[] }> };

/** A business's own reviews, for everybody. Asked for each time: what is withdrawn is gone at once. */
async function handle(request: Request, { params }: Context): Promise<Response> {
  if (!(await isWelcomeClient(request.headers))) return lostPage(request, 429);
  const query = new URL(request.url).searchParams;
  const view = await loadReviewsPage((await params).path, query.get("before"), languageOf(query.get("lang")));
  return view
    ? customerHtml(<ReviewsPage view={view} />, 200, { "cache-control": "no-cache" })
    : lostPage(request, 404);
}

export { handle as GET, handle as HEAD };
