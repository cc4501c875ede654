import Link from "next/link";
import { PlainPage } from "@/ui/PlainPage";
import { ForgotForm } from "./ForgotForm.client";

export const metadata = { title: "A new password" };

export default function Forgot() {
  return (
    <PlainPage title="Choose a new password.">
      <p>We’ll send a link to the address you sign in with.</p>
      <ForgotForm />
      <p>
        <Link href="/sign-in" className="underline underline-offset-[3px]">
          Back to sign-in
        </Link>
      </p>
    </PlainPage>
  );
}
