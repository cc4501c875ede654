import { sayPhone } from "@/core/contacts/phone";
import { capital, sayCount } from "@/core/time/say";
import { isLanguage, LANGUAGE_NAMES } from "@/core/words/languages";
import { sizeOf } from "@/core/words/logo";
import { PLAIN_LOOK, TYPEFACE_NAMES } from "@/core/words/look";
import { privacyNote } from "@/core/words/privacy";
import { linksAsTyped, loadSetting } from "@/features/clients";
import { BranchForm, BusinessForm } from "@/features/clients/parts/BusinessForms.client";
import { CustomerPagesForm, LookForm } from "@/features/clients/parts/CustomerSideForms.client";
import { PostalAddressForm } from "@/features/clients/parts/PageForms.client";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { LogoForm } from "@/ui/LogoForm.client";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "The business" };

type Props = { params: Promise<{ client: string }> };

export default async function Business({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const { client, branches } = await withClient(access, loadSetting);
  const { slug } = access.seat;
  const { name, colour, zone, senderEmail, textNumber, answerWithinHours } = client;
  const look = client.look ?? PLAIN_LOOK;
  const language = isLanguage(client.language) ? client.language : "en";
  const starter = privacyNote(language, {
    business: name,
    country: client.country,
    email: senderEmail,
    address: client.postalAddress,
  });
  return (
    <Page
      margin={
        <Note title="Elsewhere">
          <p>
            When messages leave and how often people are asked is set under{" "}
            <Link href={`/c/${slug}/asking`}>Asking</Link>, review pages under{" "}
            <Link href={`/c/${slug}/set-up/pages`}>Review pages</Link>.
          </p>
        </Note>
      }
    >
      <h1 className="title">The business</h1>
      <p className="lead">What customers see of it, from the next message on.</p>
      <ul className="divide-rule border-rule mt-6 divide-y border-y">
        <li className="py-3">
          <BusinessForm
            slug={slug}
            values={{ name, colour, zone, senderEmail, textNumber, answerWithinHours: String(answerWithinHours) }}
          />{" "}
          writes emails from <b>{senderEmail}</b> and texts from <b>{sayPhone(textNumber)}</b>, keeps the time of{" "}
          <b>{zone}</b>, and answers whoever is unhappy within <b>{sayCount(answerWithinHours, "hour")}</b>.
        </li>
        <li className="flex flex-wrap items-center gap-3 py-3">
          {client.logo ? (
            <>
              Customers see this logo:
              {/* biome-ignore lint/performance/noImgElement: it is drawn to its size when it is uploaded */}
              <img src={`/images/${client.logo.id}.png`} alt={`The logo of ${name}`} {...sizeOf(client.logo)} />
            </>
          ) : (
            "Customers see the first letter of its name, for want of a logo."
          )}
          <LogoForm to={`/c/${slug}/set-up/logo`} logoId={client.logo?.id ?? null} />
        </li>
        <li className="py-3">
          At the foot of every email stands <PostalAddressForm slug={slug} address={client.postalAddress} />.
        </li>
        <li className="py-3">
          Customers read{" "}
          <LookForm
            slug={slug}
            words={LANGUAGE_NAMES[language]}
            values={{ ...look, language, links: linksAsTyped(look.links) }}
          />{" "}
          where their own language is not known, in <b>{TYPEFACE_NAMES[look.typeface].split(",")[0]}</b>.{" "}
          {look.signature ? "Emails are signed" : "Emails have no signature"}
          {look.links.length > 0 ? ` and lead to ${look.links.map((link) => link.name).join(", ")}` : ""}.
          {look.replyTo ? ` Replies to emails also go to ${look.replyTo}.` : ""}
        </li>
        <li className="py-3">
          Their links work for{" "}
          <CustomerPagesForm
            slug={slug}
            words={sayCount(client.linkDays, "day")}
            values={{
              linkDays: client.linkDays,
              reviewsAddress: client.reviewsAddress ?? "",
              privacyNote: client.privacyNote ?? "",
            }}
            starter={starter}
          />
          .{" "}
          {client.reviewsAddress ? (
            <>
              Your own reviews stand at{" "}
              <a href={`/reviews/${client.reviewsAddress}`} className="underline underline-offset-[3px]">
                /reviews/{client.reviewsAddress}
              </a>
              .
            </>
          ) : (
            "Your own reviews have no page yet."
          )}{" "}
          The privacy note is {client.privacyNote ? "in your own words" : "the text for your country"}.
        </li>
      </ul>
      <h2 className="font-title mt-10 text-[21px] font-semibold">
        {capital(sayCount(branches.length, "branch", "branches"))}
      </h2>
      <ul className="divide-rule border-rule mt-3 divide-y border-y">
        {branches.map((branch) => (
          <li key={branch.id} className="py-2.5">
            <BranchForm slug={slug} branch={branch} zone={zone} />
            <span className="text-second block text-[14px]">
              {[branch.address, branch.phone, branch.zone === zone ? "" : branch.zone].filter(Boolean).join(" · ")}
            </span>
          </li>
        ))}
        <li className="py-2.5">
          <BranchForm slug={slug} zone={zone} />
        </li>
      </ul>
    </Page>
  );
}
