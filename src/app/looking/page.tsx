import { stopLooking } from "@/features/navigation/actions";
import { requireUser } from "@/platform/access";
import { PlainPage } from "@/ui/PlainPage";

export const metadata = { title: "Only to look" };

/** Where whoever looks as somebody else is led when they were about to change something. */
export default async function LookingOnly() {
  const { user } = await requireUser();
  return (
    <PlainPage title="Nothing was changed.">
      <p>
        {user.seenBy ? `You see this as ${user.name} does, and can only look.` : "You are yourself again."} What you do
        is kept only when you do it as yourself.
      </p>
      <form action={stopLooking}>
        <button type="submit" className="button-main">
          Stop looking
        </button>
      </form>
    </PlainPage>
  );
}
