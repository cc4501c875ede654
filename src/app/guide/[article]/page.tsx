import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { articles, htmlOf } from "@/features/guide";
import { requireUser } from "@/platform/access";

type Props = { params: Promise<{ article: string }> };

const find = async ({ params }: Props) => {
  const { article } = await params;
  return articles().find(({ slug }) => slug === article);
};

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await find(props))?.title ?? "Guide" };
}

/** One article of the guide as a page of its own, which prints well. */
export default async function GuidePage(props: Props) {
  await requireUser();
  const article = await find(props);
  if (!article) notFound();
  return (
    <main id="main" className="mx-auto w-full max-w-[680px] px-4 py-10 sm:px-8">
      <p className="text-second text-[14px]">How Estima works</p>
      <h1 className="title mt-1">{article.title}</h1>
      <div className="guide mt-4" dangerouslySetInnerHTML={{ __html: htmlOf(article) }} />
    </main>
  );
}
