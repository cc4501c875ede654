import { requireSession } from "@/platform/access";
import { AddSecondStep, EndSecondStep, RenewCodes } from "./TwoSteps.client";

export const metadata = { title: "Two steps" };

export default async function TwoSteps() {
  const { user } = await requireSession();
  return (
    <main id="main" className="mx-auto w-full max-w-[760px] px-4 py-8 sm:px-8">
      {user.twoFactorEnabled ? (
        <>
          <h1 className="title">You sign in with two steps.</h1>
          <p className="lead">Your password, then a code of your app.</p>
          <section className="mt-8" aria-label="Recovery codes">
            <h2 className="mb-3 text-[19px] font-semibold">Recovery codes</h2>
            <RenewCodes />
          </section>
          <section className="mt-8" aria-label="End it">
            <h2 className="mb-3 text-[19px] font-semibold">With the password alone again</h2>
            <EndSecondStep />
          </section>
        </>
      ) : (
        <>
          <h1 className="title">Add a second step.</h1>
          <p className="lead">
            An app on your phone shows a new code every half minute. Any that takes a QR code for sign-in codes will do.
          </p>
          <AddSecondStep />
        </>
      )}
    </main>
  );
}
