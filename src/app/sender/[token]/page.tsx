import { headers } from "next/headers";
import { readSenderLink } from "@/features/clients";
import { isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { PlainPage } from "@/ui/PlainPage";
import { ConfirmSender } from "./ConfirmSender.client";

export const metadata = {
  title: "Confirm an address",
  robots: { index: false },
  referrer: "no-referrer" as const,
};

type Props = { params: Promise<{ token: string }> };

/** Where the link leads that was mailed to an address from which emails are to go out. */
export default async function SenderPage({ params }: Props) {
  const { token } = await params;
  const own = await headers();
  if (!(await isWelcomeClient(own)))
    return (
      <PlainPage title="Too many attempts.">
        <p>Wait a minute, then open the link again.</p>
      </PlainPage>
    );
  const claim = await readSenderLink(token);
  if (!claim) {
    await mayGuessAgain(own);
    return (
      <PlainPage title="This link has expired.">
        <p>Or the address has been changed since. You can send a new link from Set-up.</p>
      </PlainPage>
    );
  }
  return (
    <PlainPage title={claim.isConfirmed ? "This address is confirmed." : `Can ${claim.name} send from here?`}>
      {claim.isConfirmed ? (
        <p>
          Emails from {claim.name} go out from <b>{claim.address}</b>.
        </p>
      ) : (
        <>
          <p>
            {claim.name}’s emails would go out from <b>{claim.address}</b>, and Estima would collect the answers. If you
            don’t know them, close this page: nothing goes out from this address.
          </p>
          <ConfirmSender token={token} />
        </>
      )}
    </PlainPage>
  );
}
