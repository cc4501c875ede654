"use client";

import { useState, useTransition } from "react";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { lost } from "@/ui/lost.client";
import { beginClient, type ImportResult, importClient, throwAway } from "../actions";

/** Begins a client. */
export function StartOne({ slug }: { slug: string }) {
  const [pending, start] = useTransition();
  return (
    <button type="button" className="button-main" disabled={pending} onClick={() => start(() => beginClient(slug))}>
      {pending ? "One moment…" : "Start a client"}
    </button>
  );
}

/** Throws a draft away, after asking. */
export function ThrowAway({ slug, id, name }: { slug: string; id: string; name: string }) {
  return (
    <ConfirmButton
      className="button-quiet"
      action={throwAway.bind(null, slug, id)}
      sure={`Delete the draft for ${name}?`}
    >
      {" "}
      Delete draft<span className="sr-only"> {name}</span>
    </ConfirmButton>
  );
}

/** Makes a client from a JSON file, or tells line by line what is wrong in it. */
export function ImportClient({ slug }: { slug: string }) {
  const [pending, start] = useTransition();
  const [result, setResult] = useState<ImportResult>(null);
  const read = (file: File | undefined) => {
    if (!file) return;
    start(async () => {
      const form = new FormData();
      form.set("file", file);
      setResult(
        await importClient(slug, form).catch(
          lost<NonNullable<ImportResult>>({
            faults: [{ line: 1, path: "", message: "The connection dropped and nothing was created. Try again." }],
            more: 0,
          }),
        ),
      );
    });
  };
  return (
    <div>
      <label className="button has-[:focus-visible]:outline-2 cursor-pointer" htmlFor="client-file">
        {pending ? "Reading…" : "From a file (JSON)"}
        <input
          id="client-file"
          type="file"
          className="sr-only"
          accept=".json,application/json"
          disabled={pending}
          onChange={(event) => {
            read(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </label>
      {result ? (
        <ul role="alert" className="text-vermilion-deep mt-2 space-y-1 text-[14px]">
          {result.faults.map(({ line, path, message }) => (
            <li key={`${line} ${path} ${message}`}>
              Line {line}
              {path ? `, ${path}` : ""}: {message}
            </li>
          ))}
          {result.more > 0 ? <li>And {result.more} more.</li> : null}
        </ul>
      ) : null}
    </div>
  );
}
