"use client";

import { ChevronDown } from "lucide-react";
import { useRouter } from "next/navigation";
import { DropdownMenu } from "radix-ui";
import { Toaster } from "sonner";
import { Ready } from "@/ui/Ready.client";
import { signOut, signOutEverywhere } from "../actions";

/** The place where short notices appear. */
export function Notices() {
  return (
    <>
      <Toaster
        position="bottom-center"
        toastOptions={{
          style: { background: "var(--ink)", color: "var(--paper)", border: "0", fontFamily: "inherit" },
        }}
      />
      <Ready />
    </>
  );
}

/** How an entry of a menu looks. */
export const MENU_ITEM =
  "hover:bg-mulberry-tint focus:bg-mulberry-tint flex min-h-[40px] w-full cursor-pointer items-center rounded-[7px] px-3 text-left outline-none";

/** Who one is, and the ways out; a shared phone has no address and no account. */
export function AccountItems({ user, role }: { user: { name: string; email: string }; role: string }) {
  const router = useRouter();
  return (
    <>
      <DropdownMenu.Label className="text-second px-3 py-1.5 text-[13px]">
        {user.name}, {role}
        <br />
        {user.email}
      </DropdownMenu.Label>
      {user.email ? (
        <DropdownMenu.Item className={MENU_ITEM} onSelect={() => router.push("/account")}>
          Your account
        </DropdownMenu.Item>
      ) : null}
      <DropdownMenu.Item className={MENU_ITEM} onSelect={() => signOut()}>
        Sign out
      </DropdownMenu.Item>
      <DropdownMenu.Item className={MENU_ITEM} onSelect={() => signOutEverywhere()}>
        Sign out on every device
      </DropdownMenu.Item>
    </>
  );
}

/** Which agency one is at, who one is, and the way out. */
export function AccountMenu({
  name,
  user,
  role,
  others,
}: {
  name: string;
  user: { name: string; email: string };
  role: string;
  others: { slug: string; name: string }[];
}) {
  const router = useRouter();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="hover:text-mulberry inline-flex min-h-[36px] min-w-0 items-center gap-1 rounded-[8px] px-1 text-[15px] font-medium">
        <span className="truncate">{name}</span>
        <ChevronDown size={15} aria-hidden="true" className="shrink-0" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="border-rule bg-sheet text-ink z-50 w-[270px] rounded-[10px] border p-1.5"
        >
          {others.map((agency) => (
            <DropdownMenu.Item
              key={agency.slug}
              className={MENU_ITEM}
              onSelect={() => router.push(`/agency/${agency.slug}`)}
            >
              {agency.name}
            </DropdownMenu.Item>
          ))}
          <AccountItems user={user} role={role} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
