import { requireSession } from "@/platform/access";
import { ConfirmAddress } from "../../OwnForms.client";

export const metadata = { title: "Confirm your address", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function NewAddress({ params }: Props) {
  const { user } = await requireSession();
  return (
    <main id="main" className="mx-auto w-full max-w-[760px] px-4 py-8 sm:px-8">
      <h1 className="title">Confirm your new address.</h1>
      <p className="lead mb-5">Until then, you sign in as {user.email}.</p>
      <ConfirmAddress token={(await params).token} />
    </main>
  );
}
