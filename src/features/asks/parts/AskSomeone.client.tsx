"use client";

import { useEffect, useState } from "react";
import { Dialog } from "@/ui/Dialog.client";
import { onSingleKey } from "@/ui/singleKeys.client";
import type { Candidate } from "../actions";
import { type AskChoices, ComposeAsk } from "./ComposeAsk.client";
import { PickPerson } from "./PickPerson.client";

/** "Ask someone", from every page: by its button, by the key A, or by `?ask=<person>`. */
export function AskSomeone(props: AskChoices) {
  const [open, setOpen] = useState(false);
  const [person, setPerson] = useState<Candidate | null>(null);
  useEffect(() => {
    const onKey = (command: string, event: KeyboardEvent) => {
      if (command !== "a") return;
      event.preventDefault();
      setOpen(true);
    };
    const onAsk = (event: Event) => {
      setPerson((event as CustomEvent<Candidate | null>).detail);
      setOpen(true);
    };
    const end = onSingleKey(onKey);
    addEventListener("estima:ask", onAsk);
    return () => {
      end();
      removeEventListener("estima:ask", onAsk);
    };
  }, []);
  const change = (next: boolean) => {
    setOpen(next);
    if (!next) setPerson(null);
  };
  return (
    <>
      <button type="button" className="button-main" onClick={() => setOpen(true)}>
        Ask someone <kbd className="key hidden sm:inline">A</kbd>
      </button>
      <Dialog
        open={open}
        onOpenChange={change}
        title={person ? `Ask ${person.name}` : "Who would you like to ask?"}
        lead={person?.last ?? undefined}
      >
        {person ? (
          <ComposeAsk {...props} person={person} back={() => setPerson(null)} done={() => change(false)} />
        ) : (
          <PickPerson {...props} pick={setPerson} />
        )}
      </Dialog>
    </>
  );
}
