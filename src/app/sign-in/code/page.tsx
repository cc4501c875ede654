import Link from "next/link";
import { PlainPage } from "@/ui/PlainPage";
import { CodeForm } from "./CodeForm.client";

export const metadata = { title: "The second step" };

export default function SecondStep() {
  return (
    <PlainPage title="Now the code.">
      <p>Open the app that shows your codes and write the six digits of Estima. A recovery code works, too, once.</p>
      <CodeForm />
      <p>
        <Link href="/sign-in" className="underline underline-offset-[3px]">
          Start again
        </Link>
      </p>
    </PlainPage>
  );
}
