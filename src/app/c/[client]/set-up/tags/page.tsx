import { capital, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { removeTag } from "@/features/clients/actions";
import { TagForm } from "@/features/clients/parts/NamedForms.client";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import type { TagEffect } from "@/schema/clients";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Tags" };

const EFFECT_WORDS: Record<TagEffect, string> = {
  none: "just a label for your team",
  "do not ask": "never asked",
  "ask first": "their messages go out first",
  "email only": "email only",
  "text only": "text only",
};

type Props = { params: Promise<{ client: string }> };

export default async function Tags({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const { tags } = await withClient(access, loadSetting);
  const { slug } = access.seat;
  return (
    <Page
      margin={
        <Note title="What a tag does">
          <p>
            A tag set to “never asked” applies to every plan. For any other tag, a plan can choose to leave people out,
            under Asking.
          </p>
        </Note>
      }
    >
      <h1 className="title">{tags.length === 0 ? "No tags yet." : `${capital(sayCount(tags.length, "tag"))}.`}</h1>
      <ul className="divide-rule border-rule mt-5 divide-y border-y">
        {tags.map((tag) => (
          <li key={tag.id} className="flex flex-wrap items-center justify-between gap-x-6 py-2.5">
            <TagForm slug={slug} tag={tag} />
            <span className="flex items-center gap-4">
              <span className="text-second">{EFFECT_WORDS[tag.effect]}</span>
              <Link href={`/c/${slug}/people?tag=${encodeURIComponent(tag.name)}`} className="words-link">
                See people
              </Link>
              <ConfirmButton
                className="button-quiet"
                action={removeTag.bind(null, slug, tag.id)}
                sure={`Remove “${tag.name}” from everyone?`}
              >
                Remove
              </ConfirmButton>
            </span>
          </li>
        ))}
        <li className="py-2.5">
          <TagForm slug={slug} />
        </li>
      </ul>
    </Page>
  );
}
