import { headers } from "next/headers";
import Link from "next/link";
import { findInvitation, hasAccount } from "@/features/accounts";
import { signedIn } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { PlainPage } from "@/ui/PlainPage";
import { JoinForm } from "./JoinForm.client";

export const metadata = { title: "Join", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function Join({ params }: Props) {
  const { token } = await params;
  const own = await headers();
  const isWelcome = await isWelcomeClient(own);
  const link = isWelcome && isToken(token) ? await findInvitation(token, await clockNow()) : null;
  if (!link) {
    await mayGuessAgain(own);
    return (
      <PlainPage title="This invitation no longer works.">
        <p>It’s been used or withdrawn, or it’s more than a week old. Ask whoever invited you for a new one.</p>
      </PlainPage>
    );
  }
  const user = await signedIn();
  if (user && user.email !== link.email)
    return (
      <PlainPage title="This invitation is for someone else.">
        <p>
          You are signed in as {user.email}, and it was sent to {link.email}. Sign out first, then open the link again.
        </p>
        <p>
          <Link href="/" className="button">
            Continue as {user.name}
          </Link>
        </p>
      </PlainPage>
    );
  const isNew = !user && !(await hasAccount(link.email));
  return (
    <PlainPage title={`${link.agency} invites you, ${link.name.split(" ")[0]}.`}>
      {user || isNew ? (
        <>
          <p>{isNew ? `You’ll sign in with ${link.email}.` : `It’ll be added to your account, ${link.email}.`}</p>
          <JoinForm token={token} name={link.name} isNew={isNew} />
        </>
      ) : (
        <>
          <p>You already have an account as {link.email}. Sign in with it, then open this link again to join.</p>
          <p>
            <Link href="/sign-in" className="button-main">
              Sign in
            </Link>
          </p>
        </>
      )}
    </PlainPage>
  );
}
