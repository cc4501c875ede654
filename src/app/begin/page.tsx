import { redirect } from "next/navigation";
import { isUnbegun } from "@/features/accounts";
import { PlainPage } from "@/ui/PlainPage";
import { BeginForm } from "./BeginForm.client";

export const metadata = { title: "Begin" };
export const dynamic = "force-dynamic";

export default async function Begin() {
  if (!(await isUnbegun())) redirect("/sign-in");
  return (
    <PlainPage title="Begin with Estima.">
      <p>Nobody has an account here yet. Make the first one; it may do everything, and invites the others.</p>
      <BeginForm />
    </PlainPage>
  );
}
