import { requireSession } from "@/platform/access";
import { AddSecondStep, EndSecondStep, RenewCodes } from "./TwoSteps.client";

export const metadata = { title: "Two-step sign-in" };

export default async function TwoSteps() {
  const { user } = await requireSession();
  return (
    <main id="main" className="mx-auto w-full max-w-[760px] px-4 py-8 sm:px-8">
      {user.twoFactorEnabled ? (
        <>
          <h1 className="title">You sign in with two steps.</h1>
          <p className="lead">Your password, then a code from your app.</p>
          <section className="mt-8" aria-label="Recovery codes">
            <h2 className="mb-3 text-[19px] font-semibold">Recovery codes</h2>
            <RenewCodes />
          </section>
          <section className="mt-8" aria-label="Turn it off">
            <h2 className="mb-3 text-[19px] font-semibold">Go back to just a password</h2>
            <EndSecondStep />
          </section>
        </>
      ) : (
        <>
          <h1 className="title">Add a second step.</h1>
          <p className="lead">An app on your phone shows a new code every 30 seconds. Any authenticator app will do.</p>
          <AddSecondStep />
        </>
      )}
    </main>
  );
}
