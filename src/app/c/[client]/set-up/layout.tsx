import type { ReactNode } from "react";
import { SetUpNav } from "@/features/navigation/parts/SetUpNav.client";
import { requireSeat } from "@/platform/access";

export default async function SetUpLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ client: string }>;
}) {
  // Each part asks for what it needs.
  const access = await requireSeat((await params).client);
  return (
    <>
      <SetUpNav slug={access.seat.slug} />
      {children}
    </>
  );
}
