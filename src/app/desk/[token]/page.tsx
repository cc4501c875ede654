import { PlainPage } from "@/ui/PlainPage";
import { OpenPhone } from "./OpenPhone.client";

export const metadata = { title: "A shared phone", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function PhoneLink({ params }: Props) {
  return (
    <PlainPage title="Make this a shared phone.">
      <p>
        It stays signed in for your team and can only be used to ask customers. Anyone signed in on it now will be
        signed out.
      </p>
      <OpenPhone token={(await params).token} />
    </PlainPage>
  );
}
