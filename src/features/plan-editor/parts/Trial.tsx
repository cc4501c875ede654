import type { PlanStep, Wording } from "@/core/plans/planRules";
import { chancesOfBest, judgeTrial, type Tally, wordingsOf } from "@/core/plans/trial";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { StepButton } from "./MessageSentences.client";
import type { PlanRef } from "./planRef";

/** Wordings on trial: how each does, the chance that it is the best, and whether that is enough to end the trial. */
export function Trial({
  plan,
  step,
  index,
  wording,
  tallies,
  href,
}: {
  plan: PlanRef;
  step: PlanStep;
  index: number;
  wording: Wording;
  tallies: Tally[];
  href: (key: string) => string;
}) {
  const all = wordingsOf(step);
  if (all.length === 1)
    return (
      <div className="-ml-2 mt-1">
        <StepButton plan={plan} part="add wording" fields={{ step: index }}>
          Try a second wording
        </StepButton>
      </div>
    );
  const own = all.map(({ key }) => tallies.find((tally) => tally.key === key) ?? { key, sent: 0, answered: 0 });
  const chances = chancesOfBest(own);
  const verdict = judgeTrial(own);
  const share = ({ sent, answered }: Tally) =>
    sent === 0 ? "no results yet" : `${Math.round((100 * answered) / sent)}% answered (${answered} of ${sent})`;
  return (
    <div className="mt-3">
      <p className="text-second">
        {all.length === 2 ? "Two" : all.length === 3 ? "Three" : "Four"} wordings on trial. Each person always gets the
        same one. A message counts three days after it went out, and only if all of them were on trial at the time.
      </p>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {own.map((tally, at) => (
          <li key={tally.key} className="flex flex-wrap items-center gap-x-3 py-1.5">
            <Link
              href={href(tally.key)}
              scroll={false}
              aria-current={tally.key === wording.key ? "true" : undefined}
              className={tally.key === wording.key ? "font-semibold" : "words-link"}
            >
              Wording {tally.key.toUpperCase()}
            </Link>
            <span className="text-second">{share(tally)}</span>
            <span>{Math.round(chances[at] * 100)}% likely to be the best</span>
            <span className="ml-auto flex">
              <StepButton
                plan={plan}
                part="keep wording"
                fields={{ step: index, wording: tally.key }}
                sure={`Keep wording ${tally.key.toUpperCase()} and end the trial? The other wordings are removed.`}
              >
                Keep <span className="sr-only">wording {tally.key.toUpperCase()}</span>
              </StepButton>
              {tally.key === "a" ? null : (
                <StepButton plan={plan} part="drop wording" fields={{ step: index, wording: tally.key }}>
                  {" "}
                  Remove{" "}
                </StepButton>
              )}
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-2">
        {verdict.done ? (
          <>
            <b>Wording {verdict.best.toUpperCase()} is better</b>, so you can end the trial.{" "}
            <StepButton plan={plan} part="keep wording" fields={{ step: index, wording: verdict.best }}>
              Keep the better one
            </StepButton>
          </>
        ) : (
          `No winner yet: ${verdict.says.charAt(0).toLowerCase()}${verdict.says.slice(1)}`
        )}{" "}
        <span className="text-second text-[13px]">
          It’s fine to look early. We only call a winner when there’s less than a 1 in 20 chance of being wrong, however
          often you check.
        </span>
      </div>
      {all.length < 4 ? (
        <div className="-ml-2">
          <StepButton plan={plan} part="add wording" fields={{ step: index }}>
            Try another wording
          </StepButton>
        </div>
      ) : null}
    </div>
  );
}
