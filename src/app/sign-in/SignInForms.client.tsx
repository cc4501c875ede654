"use client";
import { ActionForm } from "@/ui/ActionForm.client";
import { signIn, takeSeat } from "./actions";

/** Email and password. */
export function SignInForm() {
  return (
    <ActionForm action={signIn} className="space-y-4">
      {({ pending, error }) => (
        <>
          <div>
            <label className="label" htmlFor="email">
              Email
            </label>
            <input id="email" name="email" type="text" inputMode="email" autoComplete="username" className="field" />
            {error("email")}
          </div>
          <div>
            <label className="label" htmlFor="password">
              Password
            </label>
            <input id="password" name="password" type="password" autoComplete="current-password" className="field" />
            {error("password")}
          </div>
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "Signing in ..." : "Sign in"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** The demo's seats, one click each. */
export function DemoSeats({ seats }: { seats: { id: string; name: string; says: string }[] }) {
  return (
    <ActionForm action={takeSeat} className="space-y-2.5">
      {({ pending }) =>
        seats.map((seat) => (
          <button
            key={seat.id}
            type="submit"
            name="seat"
            value={seat.id}
            disabled={pending}
            className="border-edge bg-sheet hover:border-mulberry flex min-h-[64px] w-full flex-col justify-center rounded-[10px] border px-4 py-2.5 text-left"
          >
            <b>{seat.name}</b>
            <span className="text-second text-[14px]">{seat.says}</span>
          </button>
        ))
      }
    </ActionForm>
  );
}
