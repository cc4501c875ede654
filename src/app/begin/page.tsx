import { redirect } from "next/navigation";
import { isUnbegun } from "@/features/accounts";
import { PlainPage } from "@/ui/PlainPage";
import { BeginForm } from "./BeginForm.client";

export const metadata = { title: "Set up" };
export const dynamic = "force-dynamic";

export default async function Begin() {
  if (!(await isUnbegun())) redirect("/sign-in");
  return (
    <PlainPage title="Set up Estima.">
      <p>
        Nobody has an account here yet. Create the first one. It can do everything, and you can invite the others from
        it.
      </p>
      <BeginForm />
    </PlainPage>
  );
}
