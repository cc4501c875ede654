"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { DayField } from "@/ui/DayField.client";
import { Dialog } from "@/ui/Dialog.client";
import { goOn, pauseEverything } from "../pauseActions";

/** Pauses everything of a client, with a reason and until when. */
export function PauseEverything({ slug, today }: { slug: string; today: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="button" onClick={() => setOpen(true)}>
        Pause everything
      </button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="Pause everything?"
        lead="No asks and no follow-ups go out. Messages that come due wait, and any that get too old aren’t sent. Your own answers to customers still go out."
      >
        <ActionForm action={pauseEverything.bind(null, slug)} onDone={() => setOpen(false)}>
          {({ pending, error }) => (
            <div className="space-y-4">
              <div>
                <label className="label" htmlFor="pause-why">
                  Reason (only your team sees it)
                </label>
                <input id="pause-why" name="why" className="field" maxLength={200} autoComplete="off" />
                {error("why")}
              </div>
              <div>
                <label className="label" htmlFor="pause-until">
                  Resume automatically on
                </label>
                <DayField id="pause-until" name="until" label="Resume automatically on" today={today} isOptional />
                <p className="text-second mt-1 text-[14px]">With no date, it stays paused until someone resumes it.</p>
                {error("until")}
              </div>
              <button type="submit" className="button-main min-h-[44px] px-6" disabled={pending}>
                {pending ? "Pausing…" : "Pause everything"}
              </button>
            </div>
          )}
        </ActionForm>
      </Dialog>
    </>
  );
}

/** Lets a paused client go on. */
export function GoOn({ slug }: { slug: string }) {
  return (
    <ConfirmButton className="button-main" action={goOn.bind(null, slug)}>
      {" "}
      Resume
    </ConfirmButton>
  );
}
