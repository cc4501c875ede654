import Link from "next/link";
import { sayAgo } from "@/core/time/say";
import { listSessions, loadProfile } from "@/features/accounts";
import { hasDeskCode } from "@/features/desk";
import { requireSession } from "@/platform/access";
import { realTime } from "@/platform/clock";
import { SingleKeysSwitch } from "@/ui/SingleKeysSwitch.client";
import { AddressForm, DeskCodeForm, EndSession, NewPasswordForm, ProfileForm } from "./OwnForms.client";

export const metadata = { title: "Your account" };

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function OwnAccount({ searchParams }: Props) {
  const session = await requireSession();
  const { changed } = await searchParams;
  const profile = await loadProfile(session.user.id);
  const sessions = await listSessions(session.user.id);
  const now = realTime();
  return (
    <main id="main" className="mx-auto w-full max-w-[760px] px-4 py-8 sm:px-8">
      <h1 className="title">Your account</h1>
      <p className="lead">You sign in as {profile.email}.</p>
      {changed === "address" ? (
        <p role="status" className="bg-leaf-tint text-leaf mt-4 rounded-[8px] px-3 py-2">
          Your address has been changed.
        </p>
      ) : null}
      <Part title="You">
        <ProfileForm profile={profile} />
      </Part>
      <Part title="Email address">
        <AddressForm />
      </Part>
      <Part title="Password">
        <NewPasswordForm />
      </Part>
      <Part title="Two-step sign-in">
        <p>
          {session.user.twoFactorEnabled
            ? "You sign in with your password and a code from your app."
            : "You sign in with just your password. If you add a code from an app, a stolen password is no use to anyone."}
        </p>
        <p className="mt-3">
          <Link href="/account/two-steps" className="button">
            {session.user.twoFactorEnabled ? "Change" : "Add a second step"}
          </Link>
        </p>
      </Part>
      <Part title="On a shared phone">
        <DeskCodeForm has={await hasDeskCode(session.user.id)} />
      </Part>
      <Part title="Keyboard shortcuts">
        <SingleKeysSwitch />
      </Part>
      <Part title="Where you’re signed in">
        <ul className="divide-rule border-rule divide-y border-y">
          {sessions.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center justify-between gap-3 py-2.5">
              <span>
                <b>{one.device}</b>
                <span className="text-second block text-[14px]">
                  {one.id === session.id ? "this one, " : ""}signed in {sayAgo(one.since, now)}
                  {one.lastSeen - one.since > 60_000 ? `, last active ${sayAgo(one.lastSeen, now)}` : ""}
                </span>
              </span>
              <EndSession id={one.id} device={one.device} isThis={one.id === session.id} />
            </li>
          ))}
        </ul>
      </Part>
    </main>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-9" aria-label={title}>
      <h2 className="mb-3 text-[19px] font-semibold">{title}</h2>
      {children}
    </section>
  );
}
