import { z } from "zod";
import { branchAddress } from "@/core/reviews/ownReviews";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { loadSetting, lookAt } from "@/features/clients";
import { withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import type { ReviewsView } from "./page";
import { ownReviewsPage, reviewsAt } from "./service";

/**
 * What stands at `/reviews/<address>[/<branch>]`; null where nothing does. `before` is the identifier of the last
 * review of the page before: what is none shows the first page.
 */
export async function loadReviewsPage(
  path: readonly string[],
  typedBefore: string | null,
  language: AnyLanguage | null,
): Promise<ReviewsView | null> {
  const [address = "", branchPart, ...more] = path;
  const scope = more.length === 0 && address.length <= 60 ? await reviewsAt(address) : null;
  if (!scope) return null;
  const before = z.uuid().safeParse(typedBefore).data ?? null;
  return withClient(scope, async (tx) => {
    const { client, branches } = await loadSetting(tx);
    const branch = branchPart === undefined ? null : branches.find(({ name }) => branchAddress(name) === branchPart);
    if (branch === undefined || client.archivedAt !== null) return null;
    const page = await ownReviewsPage(tx, scope, branch?.id ?? null, before);
    const here = `${environment().APP_URL}/reviews/${address}${branch ? `/${branchPart}` : ""}`;
    const isFirst = before === null;
    return {
      ...page,
      business: client.name,
      ...lookAt({ client, branches }, branch?.id ?? null),
      language: firstLanguage(language, client.language),
      zone: client.zone,
      postalAddress: client.postalAddress,
      branch: branch ? { name: branch.name, address: branch.address } : null,
      branchNames: new Map(branches.length > 1 ? branches.map(({ id, name }) => [id, name]) : []),
      address: here,
      canonical: isFirst ? here : `${here}?before=${before}`,
      before,
    };
  });
}
