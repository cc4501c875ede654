"use client";

import { mergeAttributes, Node } from "@tiptap/core";
import Document from "@tiptap/extension-document";
import HardBreak from "@tiptap/extension-hard-break";
import Paragraph from "@tiptap/extension-paragraph";
import Text from "@tiptap/extension-text";
import { UndoRedo } from "@tiptap/extensions";
import { EditorContent, type JSONContent, useEditor } from "@tiptap/react";
import { useRouter } from "next/navigation";
import { useEffect, useState, useTransition } from "react";
import { toast } from "sonner";
import { type Segment, segmentsOf, templateOf } from "@/core/words/segments";
import { changeAgencyPiece, changeLinkPiece, changePiece } from "../actions";

/** What a placeholder is called where its short name says too little. */
const placeholderName = (name: string) => (name === "about" ? "what it was about" : name);

/** What a chip says: "first name, or else there". */
const chipWords = (name: string, fallback: string | null) =>
  fallback === null
    ? placeholderName(name)
    : `${placeholderName(name)}, or ${fallback === "" ? "nothing" : `“${fallback}”`} if unknown`;

/** A placeholder as one thing among the words: it is passed over and deleted like a letter, and never typed into. */
const Placeholder = Node.create({
  name: "placeholder",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  addAttributes() {
    return { name: { default: "" }, fallback: { default: null } };
  },
  parseHTML() {
    return [
      {
        tag: "span[data-placeholder]",
        getAttrs: (element) => ({
          name: element.getAttribute("data-placeholder"),
          fallback: element.getAttribute("data-fallback"),
        }),
      },
    ];
  },
  renderHTML({ node, HTMLAttributes }) {
    const { name, fallback } = node.attrs as { name: string; fallback: string | null };
    return [
      "span",
      mergeAttributes(HTMLAttributes, {
        "data-placeholder": name,
        ...(fallback === null ? {} : { "data-fallback": fallback }),
        class: "bg-mulberry-tint rounded-[5px] px-1.5 py-0.5 text-[0.92em]",
      }),
      chipWords(name, fallback),
    ];
  },
  renderText({ node }) {
    return templateOf([{ name: node.attrs.name, fallback: node.attrs.fallback }]);
  },
});

/** A wording as the editor holds it: a paragraph a line. */
function contentOf(template: string): JSONContent {
  const inline = (segment: Segment): JSONContent =>
    "text" in segment ? { type: "text", text: segment.text } : { type: "placeholder", attrs: { ...segment } };
  return {
    type: "doc",
    content: template.split("\n").map((line) => ({
      type: "paragraph",
      content: segmentsOf(line)
        .filter((segment) => !("text" in segment) || segment.text !== "")
        .map(inline),
    })),
  };
}

function templateIn(doc: JSONContent): string {
  const line = ({ content = [] }: JSONContent): string =>
    content
      .map((node) =>
        node.type === "placeholder"
          ? templateOf([{ name: String(node.attrs?.name), fallback: (node.attrs?.fallback as string | null) ?? null }])
          : node.type === "hardBreak"
            ? "\n"
            : (node.text ?? ""),
      )
      .join("");
  return (doc.content ?? []).map(line).join("\n");
}

/** Where a text is kept: with a plan, with the standing links of a client, with an agency. */
export type Kept = { slug: string; planId: string; revision: number } | { linksOf: string } | { agency: string };

type Props = {
  /** Which text: its key, and what it is called here. */
  piece: string;
  label: string;
  words: string;
  /** Placeholders that may stand in it. */
  placeholders: readonly string[];
  /** What it says without a change here; null where nothing was changed. */
  above: string | null;
  aboveWords: string;
  /** On which row it is kept. */
  kept: Kept;
  isShort: boolean;
};

/** One text, changed where it stands. Placeholders are chips; what is pasted comes as plain words. */
export function WordsEditor({ piece, label, words, placeholders, above, aboveWords, kept, isShort }: Props) {
  const router = useRouter();
  const [pending, start] = useTransition();
  const [now, setNow] = useState(words);
  const [wrong, setWrong] = useState<string | null>(null);
  const editor = useEditor(
    {
      immediatelyRender: false,
      extensions: [Document, Paragraph, Text, HardBreak, UndoRedo, Placeholder],
      content: contentOf(words),
      editorProps: {
        attributes: {
          class: `field min-h-[44px] w-full ${isShort ? "" : "min-h-[120px]"} whitespace-pre-wrap text-[16px] leading-[1.7]`,
          role: "textbox",
          "aria-multiline": "true",
          "aria-label": label,
          lang: piece.slice(0, 2),
        },
        clipboardTextParser: (text, _context, _plain, view) =>
          view.state.schema.nodeFromJSON(contentOf(text)).slice(0, undefined, true),
        transformPastedHTML: (html) => html.replace(/<(?!\/?(?:p|br|span)\b)[^>]*>/gi, ""),
      },
      onUpdate: ({ editor }) => {
        setNow(templateIn(editor.getJSON()));
        setWrong(null);
      },
    },
    [piece],
  );
  useEffect(() => {
    setNow(words);
    if (editor && templateIn(editor.getJSON()) !== words) editor.commands.setContent(contentOf(words));
  }, [words, editor]);
  const save = (said: string | null) =>
    start(async () => {
      const result =
        "agency" in kept
          ? await changeAgencyPiece(kept.agency, piece, said)
          : "linksOf" in kept
            ? await changeLinkPiece(kept.linksOf, piece, said)
            : await changePiece(kept.slug, kept.planId, kept.revision, piece, said);
      if (result.ok) {
        toast(result.message);
        router.refresh();
      } else setWrong(result.message);
    });
  const isChanged = now !== words;
  return (
    <div id={piece} className="mt-4 scroll-mt-20">
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-3">
        <span className="text-second text-[14px]">{label}</span>
        {above !== null ? (
          <button type="button" className="button-quiet text-[13px]" disabled={pending} onClick={() => save(null)}>
            {" "}
            Undo<span className="sr-only">: {label}</span>
          </button>
        ) : (
          <span className="text-second text-[13px]">{aboveWords}</span>
        )}
      </div>
      <EditorContent editor={editor} />
      <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
        <Insert
          label={label}
          placeholders={placeholders}
          onInsert={(name, fallback) =>
            editor?.chain().focus().insertContent({ type: "placeholder", attrs: { name, fallback } }).run()
          }
        />
        {isChanged ? (
          <>
            <button type="button" className="button-main" disabled={pending} onClick={() => save(now)}>
              {pending ? "Saving…" : "Save"}
              <span className="sr-only">: {label}</span>
            </button>
            <button
              type="button"
              className="button-quiet"
              disabled={pending}
              onClick={() => {
                editor?.commands.setContent(contentOf(words));
                setNow(words);
                setWrong(null);
              }}
            >
              Cancel
            </button>
          </>
        ) : null}
      </div>
      {wrong ? (
        <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
          {wrong}
        </p>
      ) : null}
    </div>
  );
}

/** What each placeholder falls back on to begin with: links and the business's own names are always known. */
const ALWAYS_KNOWN = new Set(["link", "good link", "bad link", "business", "branch"]);

/** Puts a placeholder where the cursor is, with what stands there when it is not known. */
function Insert({
  label,
  placeholders,
  onInsert,
}: {
  label: string;
  placeholders: readonly string[];
  onInsert: (name: string, fallback: string | null) => void;
}) {
  const [name, setName] = useState(placeholders[0] ?? "");
  const [fallback, setFallback] = useState("");
  return (
    <details className="text-[14px]">
      <summary className="button-quiet cursor-pointer list-none">
        Insert…<span className="sr-only">: {label}</span>
      </summary>
      <div className="mt-1.5 flex flex-wrap items-end gap-2">
        <label className="block">
          <span className="label">What</span>
          <select className="field" value={name} onChange={(event) => setName(event.target.value)}>
            {placeholders.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
        {ALWAYS_KNOWN.has(name) ? null : (
          <label className="block">
            <span className="label">If unknown</span>
            <input
              className="field"
              value={fallback}
              maxLength={80}
              placeholder="nothing"
              onChange={(event) => setFallback(event.target.value.replace(/[{}|\n]/g, ""))}
            />
          </label>
        )}
        <button
          type="button"
          className="button"
          onClick={() => onInsert(name, ALWAYS_KNOWN.has(name) ? null : fallback)}
        >
          Insert
        </button>
      </div>
    </details>
  );
}
