import type { ReactNode } from "react";
import { SetUpNav } from "@/features/navigation/parts/SetUpNav.client";
import { requireAccess } from "@/platform/access";

export default async function SetUpLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ client: string }>;
}) {
  const access = await requireAccess((await params).client, "edit people");
  return (
    <>
      <SetUpNav slug={access.seat.slug} rights={{ permissions: access.seat.permissions }} />
      {children}
    </>
  );
}
