import Link from "next/link";
import type { ReactNode } from "react";
import { Notices } from "@/features/navigation/parts/AccountMenu.client";

/** One's own account: of no client and no agency. */
export default function AccountLayout({ children }: { children: ReactNode }) {
  return (
    <>
      <header data-hydrates="" className="border-rule bg-sheet border-b">
        <div className="mx-auto flex min-h-[56px] w-full max-w-[760px] items-center justify-between gap-3 px-4 sm:px-8">
          <Link href="/" className="font-title text-mulberry text-[23px] font-bold no-underline">
            Estima
          </Link>
          <Link href="/" className="button">
            Back to Estima
          </Link>
        </div>
      </header>
      {children}
      <Notices />
    </>
  );
}
