"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { DropArea } from "@/ui/DropArea.client";

/** Takes a file, by choosing or dropping, or rows that were copied from a spreadsheet; leads to the look at them. */
export function ImportForm({ slug }: { slug: string }) {
  const { send, wrong, sent } = useUpload(slug);
  return (
    <div className="space-y-5">
      <DropArea className="rounded-[12px] p-7 text-center" onFiles={([file]) => send({ file })}>
        <p className="text-second mb-3">
          Drop a file here: CSV, TSV or Excel (.xlsx) straight from your software, or contacts from a phone (.vcf).
        </p>
        <input
          id="bring-file"
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,.vcf"
          className="sr-only"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) send({ file });
            event.target.value = "";
          }}
        />
        <label htmlFor="bring-file" className="button-main cursor-pointer focus-within:outline">
          Choose a file
        </label>
        {sent !== null ? (
          <p role="status" className="mt-4">
            {sent < 1 ? `Uploading: ${Math.round(sent * 100)}%` : "Reading it…"}
          </p>
        ) : null}
      </DropArea>
      <Pasted onSend={(pasted) => send({ pasted })} />
      {wrong ? (
        <p role="alert" className="bg-vermilion-tint text-vermilion-deep rounded-[8px] px-3 py-2">
          {wrong}
        </p>
      ) : null}
    </div>
  );
}

/** Sends a file or pasted rows, telling how much has gone (0 to 1), and leads to the look at them. */
function useUpload(slug: string) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [sent, setSent] = useState<number | null>(null);
  const [key, setKey] = useState(() => crypto.randomUUID());
  const send = (what: { file: File } | { pasted: string }) => {
    if (sent !== null) return;
    const form = new FormData();
    form.set("key", key);
    if ("file" in what) form.set("file", what.file);
    else form.set("pasted", what.pasted);
    setWrong("");
    setSent(0);
    const request = new XMLHttpRequest();
    request.open("POST", `/c/${slug}/people/import/upload`);
    request.upload.onprogress = (event) => setSent(event.total > 0 ? event.loaded / event.total : 0);
    const fail = (words: string) => {
      setWrong(words);
      setSent(null);
      setKey(crypto.randomUUID());
    };
    request.onerror = () => fail("The connection dropped and nothing was saved. Try again.");
    request.onload = () => {
      try {
        const answer = JSON.parse(request.responseText) as { list?: string; detail?: string };
        if (answer.list) router.push(`/c/${slug}/people/import/${answer.list}`);
        else fail(answer.detail ?? "We couldn’t read that.");
      } catch {
        fail("That didn’t work. Reload the page and try again.");
      }
    };
    request.send(form);
  };
  return { send, wrong, sent };
}

function Pasted({ onSend }: { onSend: (pasted: string) => void }) {
  return (
    <details>
      <summary>Or paste rows from a spreadsheet</summary>
      <form
        className="mt-2"
        onSubmit={(event) => {
          event.preventDefault();
          onSend(String(new FormData(event.currentTarget).get("pasted") ?? ""));
        }}
      >
        <label className="sr-only" htmlFor="bring-pasted">
          Rows
        </label>
        <textarea
          id="bring-pasted"
          name="pasted"
          rows={6}
          className="field font-mono text-[13px]"
          placeholder={"Name\tMobile\tDate\nOdette Marsh\t07700 900123\t24/11/2026"}
          required
        />
        <button type="submit" className="button mt-2">
          Check these rows
        </button>
      </form>
    </details>
  );
}
