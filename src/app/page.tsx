import { redirect } from "next/navigation";
import { startOf } from "@/features/navigation";
import { requireUser } from "@/platform/access";

/** Leads to where one starts: an agency's people to its clients, everybody else to what they see of their client. */
export default async function Home() {
  const { seats, agencies } = await requireUser();
  const start = startOf(seats, agencies);
  if (start) redirect(start);
  return (
    <main className="mx-auto max-w-[560px] px-6 py-20">
      <h1 className="title">You don’t have access to any client yet.</h1>
      <p className="lead">Ask whoever looks after Estima at your work to invite you.</p>
    </main>
  );
}
