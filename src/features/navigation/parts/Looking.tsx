import type { User } from "@/platform/access";
import { giveBack, stopLooking } from "../actions";

/** Above every page while someone looks as another person, or has said on a shared phone who they are. */
export function Looking({ user }: { user: User }) {
  if (user.phone && !user.isPhone)
    return (
      <form
        action={giveBack}
        role="status"
        className="bg-ochre-tint text-ink border-rule flex flex-wrap items-center justify-center gap-x-4 gap-y-1 border-b px-4 py-1.5"
      >
        <span>
          For ten minutes, what you do on {user.phone} is in your name, <b>{user.name}</b>.
        </span>
        <button type="submit" className="button">
          I’m done
        </button>
      </form>
    );
  if (!user.seenBy) return null;
  return (
    <form
      action={stopLooking}
      role="status"
      className="bg-ochre-tint text-ink border-rule flex flex-wrap items-center justify-center gap-x-4 gap-y-1 border-b px-4 py-1.5"
    >
      <span>
        You’re viewing this as <b>{user.name}</b>. You can’t change anything.
      </span>
      <button type="submit" className="button">
        Back to my own view
      </button>
    </form>
  );
}
