"use client";

import { useEffect, useState } from "react";
import type { ToldChoice } from "@/core/notices/choices";
import { Sentence } from "@/ui/Sentence.client";
import { changeTold } from "../actions";

const clockOf = (minutes: number) => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
const or = new Intl.ListFormat("en-GB", { type: "conjunction" });

function aboutWords({ concerns, notes, conversations, reviewsUpTo, approvals, sites }: ToldChoice): string {
  const parts = [
    concerns ? "concerns" : null,
    notes ? "kind words" : null,
    conversations ? "messages from customers" : null,
    reviewsUpTo === 5 ? "all reviews" : reviewsUpTo > 0 ? `reviews rated ${reviewsUpTo} or lower` : null,
    approvals ? "replies to approve" : null,
    sites ? "site connections that fail" : null,
  ].filter((part) => part !== null);
  return parts.length === 0 ? "nothing" : or.format(parts);
}

const WAY_WORDS = { email: "by email", text: "by text", browser: "by browser notification" } as const;

type Props = {
  slug: string;
  choice: ToldChoice;
  branches: { id: string; name: string }[];
  email: string;
  phone: string | null;
};

/** What somebody is told, how and when, as a sentence whose underlined parts change it. */
export function ToldSentence({ slug, choice, branches, email, phone }: Props) {
  const action = changeTold.bind(null, slug);
  const chosen = branches.filter(({ id }) => choice.branchIds.includes(id)).map(({ name }) => name);
  const line = "flex min-h-[32px] items-baseline gap-2.5";
  return (
    <p className="text-[18px] leading-[1.9]">
      Notify me about{" "}
      <Sentence words={aboutWords(choice)} label="What you’re notified about" action={action}>
        {(error) => (
          <div className="space-y-1">
            <input type="hidden" name="part" value="about" />
            {(
              [
                ["concerns", "Concerns from unhappy customers"],
                ["notes", "Kind words that customers send only to you"],
                ["conversations", "Texts and emails from customers"],
                ["approvals", "Replies waiting for my approval"],
                ["sites", "A review site we can no longer reach"],
              ] as const
            ).map(([value, words]) => (
              <label key={value} className={line}>
                <input type="checkbox" name="about" value={value} defaultChecked={choice[value]} />
                {words}
              </label>
            ))}
            <label className="label pt-2" htmlFor="reviews-up-to">
              Public reviews
            </label>
            <select id="reviews-up-to" name="reviewsUpTo" className="field" defaultValue={choice.reviewsUpTo}>
              <option value={0}>None</option>
              {[1, 2, 3, 4].map((n) => (
                <option key={n} value={n}>
                  Rated {n} or lower
                </option>
              ))}
              <option value={5}>All</option>
            </select>
            {error("reviewsUpTo")}
          </div>
        )}
      </Sentence>
      {branches.length > 1 ? (
        <>
          {" "}
          at{" "}
          <Sentence
            words={chosen.length === 0 ? "every branch" : or.format(chosen)}
            label="Which branches"
            action={action}
          >
            {() => (
              <fieldset className="space-y-1">
                <input type="hidden" name="part" value="branches" />
                <legend className="label">Tick none for every branch</legend>
                {branches.map(({ id, name }) => (
                  <label key={id} className={line}>
                    <input type="checkbox" name="branchIds" value={id} defaultChecked={choice.branchIds.includes(id)} />
                    {name}
                  </label>
                ))}
              </fieldset>
            )}
          </Sentence>
        </>
      ) : null}
      ,{" "}
      <Sentence
        words={choice.ways.length === 0 ? "only here in Estima" : or.format(choice.ways.map((way) => WAY_WORDS[way]))}
        label="How you’re notified"
        action={action}
      >
        {() => (
          <div className="space-y-1">
            <input type="hidden" name="part" value="ways" />
            <label className={line}>
              <input type="checkbox" name="ways" value="email" defaultChecked={choice.ways.includes("email")} />
              By email to {email}
            </label>
            {phone ? (
              <label className={line}>
                <input type="checkbox" name="ways" value="text" defaultChecked={choice.ways.includes("text")} />
                By text to {phone}
              </label>
            ) : (
              <p className="text-second text-[14px]">To get texts, add your number to your account first.</p>
            )}
            <label className={line}>
              <input type="checkbox" name="ways" value="browser" defaultChecked={choice.ways.includes("browser")} />
              As a browser notification, while Estima is open
            </label>
            <p className="text-second text-[14px]">You’ll always find it here as well.</p>
          </div>
        )}
      </Sentence>
      ,{" "}
      <Sentence
        words={
          choice.when === "at once"
            ? "straight away"
            : choice.when === "hourly"
              ? "once an hour"
              : `in a daily summary at ${clockOf(choice.dailyAt)}`
        }
        label="When you’re notified"
        action={action}
      >
        {(error) => (
          <div className="space-y-1">
            <input type="hidden" name="part" value="when" />
            {(
              [
                ["at once", "Straight away"],
                ["hourly", "Once an hour, in one go"],
                ["daily", "One summary a day"],
              ] as const
            ).map(([value, words]) => (
              <label key={value} className={line}>
                <input type="radio" name="when" value={value} defaultChecked={choice.when === value} />
                {words}
              </label>
            ))}
            <label className="label pt-2" htmlFor="daily-at">
              Send the summary at
            </label>
            <input id="daily-at" name="dailyAt" className="field" defaultValue={clockOf(choice.dailyAt)} />
            {error("dailyAt")}
          </div>
        )}
      </Sentence>
      ,{" "}
      <Sentence
        words={
          choice.quiet ? `and never from ${clockOf(choice.quiet.from)} to ${clockOf(choice.quiet.to)}` : "at any hour"
        }
        label="Quiet hours"
        action={action}
      >
        {(error) => (
          <div className="space-y-2">
            <input type="hidden" name="part" value="quiet" />
            <label className={line}>
              <input type="checkbox" name="isQuiet" value="yes" defaultChecked={choice.quiet !== null} />
              Don’t disturb me at certain hours
            </label>
            <div className="flex gap-3">
              {(["from", "to"] as const).map((name) => (
                <div key={name} className="flex-1">
                  <label className="label" htmlFor={`quiet-${name}`}>
                    {name === "from" ? "From" : "Until"}
                  </label>
                  <input
                    id={`quiet-${name}`}
                    name={name}
                    className="field"
                    defaultValue={clockOf(choice.quiet?.[name] ?? (name === "from" ? 21 * 60 : 7 * 60))}
                  />
                  {error(name)}
                </div>
              ))}
            </div>
          </div>
        )}
      </Sentence>
      .
    </p>
  );
}

/** Asks the browser whether it may notify, where somebody chose that and it was not asked yet. */
export function AllowBrowser() {
  const [state, setState] = useState<NotificationPermission | "missing" | null>(null);
  useEffect(() => setState("Notification" in window ? Notification.permission : "missing"), []);
  if (state === null) return null;
  if (state === "granted") {
    localStorage.setItem("estima-notify", "yes");
    return <p className="text-second">This browser will notify you while Estima is open.</p>;
  }
  if (state === "default")
    return (
      <button type="button" className="button" onClick={() => void Notification.requestPermission().then(setState)}>
        Turn on browser notifications
      </button>
    );
  return (
    <p className="text-second">
      This browser is blocking notifications from Estima
      {state === "denied" ? "; allow them in the browser’s settings for this page" : ""}.
    </p>
  );
}
