import { headers } from "next/headers";
import { draftOfLink } from "@/features/onboarding";
import { now as clockNow } from "@/platform/clock";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { PlainPage } from "@/ui/PlainPage";
import { FillForm } from "./FillForm.client";

export const metadata = { title: "Fill in", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function FillIn({ params }: Props) {
  const { token } = await params;
  const own = await headers();
  const draft = (await isWelcomeClient(own)) && isToken(token) ? await draftOfLink(token, await clockNow()) : null;
  if (!draft) {
    await mayGuessAgain(own);
    return (
      <PlainPage title="This link has expired.">
        <p>It’s too old, or your agency has made a new one. Ask them for it.</p>
      </PlainPage>
    );
  }
  const { agency, values, isDone } = draft;
  return (
    <PlainPage title={`Tell ${agency.name} about your business.`} brand={agency}>
      <p>Nothing goes out to anyone yet: your agency checks it first.</p>
      <FillForm token={token} draft={values} isDone={isDone} />
      {agency.helpEmail ? (
        <p>
          Questions? <a href={`mailto:${agency.helpEmail}`}>{agency.helpEmail}</a>
        </p>
      ) : null}
    </PlainPage>
  );
}
