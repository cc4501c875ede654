import Link from "next/link";
import { capital, sayCount } from "@/core/time/say";
import { listAgencySaved } from "@/features/reviews";
import { SavedList } from "@/features/reviews/parts/SavedReplies.client";
import { requireAgency } from "@/platform/access";
import { withAgency } from "@/platform/database";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "Saved replies" };

type Props = { params: Promise<{ agency: string }> };

/** Words for replies that an agency keeps for all its clients. */
export default async function AgencyReplies({ params }: Props) {
  const { agency } = await params;
  const access = await requireAgency(agency, "change words", "whole agency");
  const list = await withAgency(access, (tx) => listAgencySaved(tx, access));
  return (
    <Page
      margin={
        <Note title="Where they show up">
          <p>
            Every client’s staff see these alongside their own, and their rules can use them. The branch and business
            names are filled in for each client.
          </p>
        </Note>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/agency/${agency}/words`} className="button-quiet -ml-2">
          ← Words
        </Link>
      </p>
      <h1 className="title">
        {list.length === 0
          ? "No replies saved for all clients yet."
          : `${capital(sayCount(list.length, "reply is", "replies are"))} saved for all clients.`}
      </h1>
      <SavedList
        at={{ agency }}
        mayChange
        list={list.map(({ id, purpose, language, words, use }) => ({
          id,
          purpose,
          language,
          words,
          use,
          uses: 0,
          of: "agency",
        }))}
      />
    </Page>
  );
}
