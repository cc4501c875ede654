import Link from "next/link";
import { PlainPage } from "@/ui/PlainPage";
import { CodeForm } from "./CodeForm.client";

export const metadata = { title: "Second step" };

export default function SecondStep() {
  return (
    <PlainPage title="Enter your code.">
      <p>
        Open your authenticator app and enter the six-digit code for Estima. You can also use a recovery code; each
        works once.
      </p>
      <CodeForm />
      <p>
        <Link href="/sign-in" className="underline underline-offset-[3px]">
          Start over
        </Link>
      </p>
    </PlainPage>
  );
}
