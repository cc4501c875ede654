import { sayPhone } from "@/core/contacts/phone";
import { capital, sayCount } from "@/core/time/say";
import { isLanguage, LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { type Logo, sizeOf } from "@/core/words/logo";
import { linksAsTyped, PLAIN_LOOK, type ShownLook, shownLook, TYPEFACE_NAMES } from "@/core/words/look";
import { privacyNote } from "@/core/words/privacy";
import { type Branch, type Client, loadSetting, senderOf } from "@/features/clients";
import { mailSenderLink } from "@/features/clients/actions";
import { BranchForm, BusinessForm } from "@/features/clients/parts/BusinessForms.client";
import { BranchLookForm, CustomerPagesForm, LookForm } from "@/features/clients/parts/CustomerSideForms.client";
import { PostalAddressForm } from "@/features/clients/parts/PageForms.client";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Note, Page } from "@/ui/Page";
import { PictureForm } from "@/ui/PictureForm.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "The business" };

type Props = { params: Promise<{ client: string }> };

export default async function Business({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const setting = await withClient(access, loadSetting);
  const { client, branches } = setting;
  const { slug } = access.seat;
  const { name, colour, zone, senderEmail, textNumber } = client;
  const look = client.look ?? PLAIN_LOOK;
  const language = isLanguage(client.language) ? client.language : "en";
  const notes = [language, ...LANGUAGES.filter((each) => each !== language)].map((each) => ({
    language: each,
    name: LANGUAGE_NAMES[each],
    own: client.privacyNote?.[each] ?? "",
    starter: privacyNote(each, {
      business: name,
      country: client.country,
      email: senderEmail,
      address: client.postalAddress,
    }),
  }));
  return (
    <Page
      margin={
        <Note title="Set somewhere else">
          <p>
            When messages go out and how often people are asked is under <Link href={`/c/${slug}/asking`}>Asking</Link>,
            review pages under <Link href={`/c/${slug}/set-up/pages`}>Review pages</Link>, and how quickly people get an
            answer is under <Link href={`/c/${slug}/set-up/answering`}>Answering</Link>.
          </p>
        </Note>
      }
    >
      <h1 className="title">The business</h1>
      <p className="lead">What customers see. Changes apply from the next message.</p>
      <ul className="divide-rule border-rule mt-6 divide-y border-y">
        <li className="py-3">
          <BusinessForm slug={slug} values={{ name, colour, zone, senderEmail, textNumber }} /> sends emails from{" "}
          <b>{senderEmail}</b> and texts from <b>{sayPhone(textNumber)}</b>, in the <b>{zone}</b> time zone.
          {client.senderConfirmedAt === null ? (
            <p className="bg-ochre-tint mt-3 rounded-[8px] px-3 py-2">
              Nobody has confirmed <b>{senderEmail}</b> yet. Until someone clicks the link in our email, emails go out
              from <b>{senderOf(setting).address}</b> in the name of {name}, and answers go to both.{" "}
              <ConfirmButton className="button-quiet" action={mailSenderLink.bind(null, slug)}>
                Send the link again
              </ConfirmButton>
            </p>
          ) : null}
        </li>
        <Pictures slug={slug} name={name} shown={client} />
        <li className="py-3">
          At the bottom of every email: <PostalAddressForm slug={slug} address={client.postalAddress} />.
        </li>
        <li className="py-3">
          Customers are written to in{" "}
          <LookForm
            slug={slug}
            words={LANGUAGE_NAMES[language]}
            values={{
              ...PLAIN_LOOK,
              ...look,
              language,
              keepsMarks: client.keepsMarks,
              links: linksAsTyped(look.links),
            }}
          />{" "}
          unless we know their own language, in the typeface <b>{TYPEFACE_NAMES[look.typeface].split(",")[0]}</b>.{" "}
          {look.signature ? "Emails have a signature" : "Emails have no signature"}
          {look.links.length > 0 ? ` and links to ${look.links.map((link) => link.name).join(", ")}` : ""}.
          {look.replyTo ? ` Copies of replies go to ${look.replyTo}.` : ""}
        </li>
        <li className="py-3">
          Links in messages work for{" "}
          <CustomerPagesForm
            slug={slug}
            words={sayCount(client.linkDays, "day")}
            values={{
              linkDays: client.linkDays,
              reviewsAddress: client.reviewsAddress ?? "",
            }}
            notes={notes}
          />
          .{" "}
          {client.reviewsAddress ? (
            <>
              Your own reviews page is at{" "}
              <a href={`/reviews/${client.reviewsAddress}`} className="underline underline-offset-[3px]">
                /reviews/{client.reviewsAddress}
              </a>
              .
            </>
          ) : (
            "You don’t have an own-reviews page yet."
          )}{" "}
          The privacy note is {client.privacyNote ? "your own" : "the standard one for your country"}.
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
            <BranchLooks slug={slug} client={client} branch={branch} />
          </li>
        ))}
        <li className="py-2.5">
          <BranchForm slug={slug} zone={zone} />
        </li>
      </ul>
    </Page>
  );
}

type Shown = Pick<ShownLook, "logo" | "header" | "portrait">;

/** The pictures of the business, or with `branch` those of one of its branches. */
function Pictures({
  slug,
  name,
  shown,
  branch,
}: {
  slug: string;
  name: string;
  shown: Partial<Shown>;
  branch?: string;
}) {
  const to = (kind: string) => `/c/${slug}/set-up/pictures/${kind}${branch ? `?branch=${branch}` : ""}`;
  const { logo, header, portrait } = shown;
  return (
    <>
      <li className="flex flex-wrap items-center gap-3 py-3">
        {logo ? "Your logo:" : branch ? "" : "No logo yet, so customers see the first letter of the name."}
        {logo ? <Picture picture={logo} type="png" alt={`${name} logo`} /> : null}
        <PictureForm to={to("logo")} has={Boolean(logo)} name="logo" />
      </li>
      <li className="flex flex-wrap items-center gap-3 py-3">
        {header ? "Banner above emails and pages:" : branch ? "" : "No banner above emails and pages."}
        {header ? <Picture picture={header} type="jpg" alt={`The banner of ${name}`} /> : null}
        <PictureForm to={to("header")} has={Boolean(header)} name="banner" />
      </li>
      <li className="flex flex-wrap items-center gap-3 py-3">
        {portrait ? "Photo next to messages:" : branch ? "" : "No photo next to messages."}
        {portrait ? <Picture picture={portrait} type="jpg" alt={`The sender photo for ${name}`} isRound /> : null}
        <PictureForm to={to("portrait")} has={Boolean(portrait)} name="sender photo" />
      </li>
    </>
  );
}

function Picture({ picture, type, alt, isRound }: { picture: Logo; type: string; alt: string; isRound?: boolean }) {
  const { width, height } = sizeOf(picture);
  return (
    // biome-ignore lint/performance/noImgElement: it is drawn to its size when it is uploaded
    <img
      src={`/images/${picture.id}.${type}`}
      alt={alt}
      width={Math.min(width, 300)}
      height={Math.round((height * Math.min(width, 300)) / width)}
      className={isRound ? "rounded-full" : "rounded-[6px]"}
    />
  );
}

/** What a branch shows in place of what the business does. */
function BranchLooks({ slug, client, branch }: { slug: string; client: Client; branch: Branch }) {
  const own = branch.look;
  const seen = shownLook(client, own);
  const parts = [
    own?.logo ? "logo" : "",
    own?.header ? "banner" : "",
    own?.portrait ? "sender photo" : "",
    own?.look ? "colour and email settings" : "",
  ].filter(Boolean);
  return (
    <details className="mt-1 text-[14px]">
      <summary className="text-second cursor-pointer">
        {parts.length > 0 ? `Its own ${parts.join(", ")}` : "Same look as the business"}
      </summary>
      <p className="mt-2">
        Colour, typeface, sender and signature are{" "}
        <BranchLookForm
          slug={slug}
          branchId={branch.id}
          words={own?.look ? "its own" : "the same as the business"}
          isOwn={Boolean(own?.look)}
          values={{ ...seen, links: linksAsTyped(seen.links) }}
        />
        .
      </p>
      <ul>
        <Pictures slug={slug} name={branch.name} shown={own ?? {}} branch={branch.id} />
      </ul>
    </details>
  );
}
