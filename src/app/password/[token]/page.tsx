import Link from "next/link";
import { PlainPage } from "@/ui/PlainPage";
import { PasswordForm } from "./PasswordForm.client";

export const metadata = { title: "A new password", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function NewPassword({ params }: Props) {
  return (
    <PlainPage title="Choose a new password.">
      <p>You’ll be signed out on all your devices.</p>
      <PasswordForm token={(await params).token} />
      <p>
        <Link href="/forgot" className="underline underline-offset-[3px]">
          Ask for a new link
        </Link>
      </p>
    </PlainPage>
  );
}
