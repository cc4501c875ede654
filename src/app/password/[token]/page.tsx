import Link from "next/link";
import { PlainPage } from "@/ui/PlainPage";
import { PasswordForm } from "./PasswordForm.client";

export const metadata = { title: "A new password", robots: { index: false }, referrer: "no-referrer" as const };

type Props = { params: Promise<{ token: string }> };

export default async function NewPassword({ params }: Props) {
  return (
    <PlainPage title="Choose a new password.">
      <p>Wherever you are signed in now, you are signed out.</p>
      <PasswordForm token={(await params).token} />
      <p>
        <Link href="/forgot" className="underline underline-offset-[3px]">
          Ask for another link
        </Link>
      </p>
    </PlainPage>
  );
}
