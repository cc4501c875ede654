import { stopLooking } from "@/features/navigation/actions";
import { requireUser } from "@/platform/access";
import { PlainPage } from "@/ui/PlainPage";

export const metadata = { title: "View only" };

/** Where whoever looks as somebody else is led when they were about to change something. */
export default async function LookingOnly() {
  const { user } = await requireUser();
  return (
    <PlainPage title="Nothing was changed.">
      <p>
        {user.seenBy ? `You’re viewing this as ${user.name}, and can’t change anything.` : "You’re back as yourself."}{" "}
        To make changes, go back to your own view.
      </p>
      <form action={stopLooking}>
        <button type="submit" className="button-main">
          Back to my own view
        </button>
      </form>
    </PlainPage>
  );
}
