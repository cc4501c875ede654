import { capital, sayAgo, sayCount } from "@/core/time/say";
import { listKeys, scopesFor } from "@/features/api";
import { revokeKey } from "@/features/api/actions";
import { MakeKey } from "@/features/api/parts/KeyForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "API keys" };

type Props = { params: Promise<{ client: string }> };

export default async function Keys({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const now = await clockNow();
  const { slug } = access.seat;
  const keys = await withClient(access, (tx) => listKeys(tx, access));
  return (
    <Page
      margin={
        <Note title="For developers">
          <p>
            Read <a href="/api/v1">the API guide</a>, or give your tools the{" "}
            <a href="/api/v1/openapi.json">OpenAPI 3.1 description</a>. A key only works for this client.
          </p>
        </Note>
      }
    >
      <div className="flex flex-wrap items-start justify-between gap-4">
        <h1 className="title">
          {keys.length === 0 ? "No API keys yet." : `${capital(sayCount(keys.length, "API key", "API keys"))}.`}
        </h1>
        <MakeKey slug={slug} scopes={scopesFor(access.seat)} />
      </div>
      {keys.length === 0 ? (
        <div className="mt-5">
          <Empty>A key lets your own software read and write people, visits, asks and more.</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-5 divide-y border-y">
          {keys.map((key) => (
            <li key={key.id} className="flex flex-wrap items-center justify-between gap-x-6 gap-y-1 py-3">
              <span>
                <b>{key.name}</b> <code className="text-second text-[13px]">{key.hint}…</code>
                <span className="text-second block text-[14px]">{key.scopes.join(", ")}</span>
              </span>
              <span className="flex items-center gap-4">
                <span className="text-second text-[14px]">
                  created by {key.madeBy} {sayAgo(key.createdAt, now)},{" "}
                  {key.usedAt ? `used ${sayAgo(key.usedAt, now)}` : "never used"}
                </span>
                <ConfirmButton
                  action={revokeKey.bind(null, slug, key.id)}
                  sure={`Revoke the key for ${key.name}? Its program stops working straight away.`}
                >
                  End
                </ConfirmButton>
              </span>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
