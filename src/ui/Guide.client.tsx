"use client";

import { X } from "lucide-react";
import { usePathname } from "next/navigation";
import { Dialog as Radix } from "radix-ui";
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { articleAt } from "@/core/web/offeredAt";

type Offered = { slug: string; title: string; at: string[] };
type Shown = { title: string; html: string };

const Articles = createContext<readonly Offered[]>([]);

/** Opens an article beside the page. */
export const openArticle = (slug: string) => dispatchEvent(new CustomEvent("estima:guide", { detail: slug }));

/** Has the guide's articles at hand on the pages within, and shows one in a sheet beside them. */
export function Guide({ articles, children }: { articles: readonly Offered[]; children: ReactNode }) {
  const [open, setOpen] = useState<Offered | null>(null);
  const [shown, setShown] = useState<Shown | "lost" | null>(null);
  useEffect(() => {
    const onOpen = (event: Event) => {
      const wanted = articles.find(({ slug }) => slug === (event as CustomEvent<string>).detail);
      if (!wanted) return;
      setOpen(wanted);
      setShown(null);
      fetch(`/guide/${wanted.slug}/words`)
        .then(async (response) => setShown(response.ok ? ((await response.json()) as Shown) : "lost"))
        .catch(() => setShown("lost"));
    };
    addEventListener("estima:guide", onOpen);
    return () => removeEventListener("estima:guide", onOpen);
  }, [articles]);
  return (
    <Articles value={articles}>
      {children}
      <Radix.Root open={open !== null} onOpenChange={(next) => next || setOpen(null)}>
        <Radix.Portal>
          <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(34_26_44/0.3)]" />
          <Radix.Content
            aria-describedby={undefined}
            className="bg-sheet text-ink border-rule fixed inset-y-0 right-0 z-50 w-[min(460px,100vw)] overflow-y-auto border-l px-5 py-6 sm:px-7"
          >
            <div className="mb-4 flex items-start justify-between gap-4">
              <Radix.Title className="font-title text-[23px] leading-tight font-semibold">{open?.title}</Radix.Title>
              <Radix.Close
                aria-label="Close"
                className="text-second hover:text-ink -mt-1 -mr-2 grid size-11 shrink-0 place-items-center rounded-full"
              >
                <X size={20} />
              </Radix.Close>
            </div>
            {shown === "lost" ? (
              <p role="alert" className="text-vermilion-deep">
                We couldn’t load this. Check your connection, then open it again.
              </p>
            ) : shown ? (
              <>
                {/* Our own text: nothing that anybody typed is in it. */}
                <div className="guide" dangerouslySetInnerHTML={{ __html: shown.html }} />
                <p className="mt-6">
                  <a href={`/guide/${open?.slug}`} target="_blank" rel="noreferrer" className="words-link">
                    Open as a page, to print
                  </a>
                </p>
              </>
            ) : (
              <p className="text-second">Loading…</p>
            )}
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </Articles>
  );
}

/** At the foot of a page's margin: opens the article about this page, where there is one. */
export function HowThisWorks() {
  const article = articleAt(useContext(Articles), usePathname());
  if (!article) return null;
  return (
    <section className="py-5">
      <button type="button" className="words-link text-left" onClick={() => openArticle(article.slug)}>
        How this works
      </button>
      <p className="text-second mt-0.5 text-[14px]">{article.title}</p>
    </section>
  );
}
