import { redirect } from "next/navigation";
import { requireUser } from "@/platform/access";

/** Leads to Today of the first client one may enter. */
export default async function Home() {
  const { seats } = await requireUser();
  const [main] = seats;
  if (main) redirect(`/c/${main.slug}/today`);
  return (
    <main className="mx-auto max-w-[560px] px-6 py-20">
      <h1 className="title">No client is open to you yet.</h1>
      <p className="lead">Ask whoever runs your agency to give you a seat.</p>
    </main>
  );
}
