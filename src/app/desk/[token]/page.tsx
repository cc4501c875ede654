import { PlainPage } from "@/ui/PlainPage";
import { OpenPhone } from "./OpenPhone.client";

export const metadata = { title: "A shared phone", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function PhoneLink({ params }: Props) {
  return (
    <PlainPage title="Make this a shared phone.">
      <p>It stays signed in here for your team, and may only ask. Whoever is signed in on it now is signed out.</p>
      <OpenPhone token={(await params).token} />
    </PlainPage>
  );
}
