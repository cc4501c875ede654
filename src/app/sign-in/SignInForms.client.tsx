"use client";
import { ActionForm } from "@/ui/ActionForm.client";
import { Field } from "@/ui/Field";
import { signIn, takeSeat } from "./actions";

/** Email and password. */
export function SignInForm() {
  return (
    <ActionForm action={signIn} className="space-y-4">
      {({ pending, error }) => (
        <>
          <Field
            id="email"
            label="Email"
            name="email"
            type="text"
            inputMode="email"
            autoComplete="username"
            error={error}
          />
          <Field
            id="password"
            label="Password"
            name="password"
            type="password"
            autoComplete="current-password"
            error={error}
          />
          <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
            {pending ? "Signing in…" : "Sign in"}
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
