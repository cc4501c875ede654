import Link from "next/link";
import { redirect } from "next/navigation";
import { isUnbegun } from "@/features/accounts";
import { DEMO_SEATS } from "@/features/navigation";
import { environment } from "@/platform/environment";
import { DemoSeats, SignInForm } from "./SignInForms.client";

export const metadata = { title: "Sign in" };

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function SignIn({ searchParams }: Props) {
  if (await isUnbegun()) redirect("/begin");
  const { chosen } = await searchParams;
  const isDemo = environment().ESTIMA_DEMO;
  return (
    <main className="mx-auto grid min-h-dvh w-full max-w-[1060px] items-center gap-12 px-6 py-12 md:grid-cols-2">
      <div>
        <p className="font-title text-mulberry text-[30px] font-bold">Estima</p>
        <h1 className="title mt-6">Ask how it went, at the right moment.</h1>
        <p className="lead max-w-[40ch]">
          Happy customers find their way to the review sites, unhappy ones to someone who can put things right.
        </p>
        <blockquote className="said border-mulberry mt-8 border-l-[3px] pl-4">
          “They rang the next morning to ask how Biscuit was doing.”
        </blockquote>
      </div>
      <div className="sheet p-6 sm:p-8">
        {chosen === "1" ? (
          <p role="status" className="bg-leaf-tint text-leaf mb-4 rounded-[8px] px-3 py-2">
            Your new password is saved. You can sign in with it now.
          </p>
        ) : null}
        {isDemo ? (
          <>
            <h2 className="mb-3 text-[19px] font-semibold">Try the demo as</h2>
            <DemoSeats seats={DEMO_SEATS.map(({ id, name, says }) => ({ id, name, says }))} />
            <h2 className="border-rule mt-7 mb-3 border-t pt-6 text-[19px] font-semibold">
              Or sign in to your account
            </h2>
          </>
        ) : (
          <h2 className="mb-3 text-[19px] font-semibold">Sign in</h2>
        )}
        <SignInForm />
        <p className="mt-4 text-[14px]">
          <Link href="/forgot" className="underline underline-offset-[3px]">
            Forgot your password?
          </Link>
        </p>
      </div>
    </main>
  );
}
