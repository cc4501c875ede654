import type { PlanRules } from "@/core/plans/planRules";
import { sayCondition, sayStepChannel } from "@/core/plans/sayRules";
import { sayCount } from "@/core/time/say";
import { composeAsk } from "@/core/words/compose";
import { PLACEHOLDERS } from "@/core/words/placeholders";
import { textParts } from "@/core/words/textParts";
import { answerLink } from "@/platform/customerLinks";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { PlanView } from "../planView";
import { ANCHOR_WORDS } from "./anchorWords";
import { StepButton, StepSentence, WordsSentence } from "./MessageSentences.client";
import { Trial } from "./Trial";

/** One message of a plan: when it goes out, to whom, in which words, and how it reads. `as` shows it by that channel. */
export function StepSheet({ view, as }: { view: PlanView; as?: "email" | "text" }) {
  const { ref, rules, step, index, wording, wordings, tallies, stepHref } = view;
  const isFeeling = rules.style === "how it went first";
  return (
    <section className="sheet mt-4 grid gap-6 p-5 md:grid-cols-[1fr_280px]" aria-label={step.name}>
      <div>
        <h2 className="font-sans text-[16px] font-semibold tracking-normal">
          {step.name}{" "}
          <span className="tag bg-paper text-second border-rule ml-1 border">{sayStepChannel(step.channel)}</span>
          {isFeeling ? (
            <span className="tag bg-paper text-second border-rule ml-1 border">
              {step.part === "review" ? "asks happy customers for a review" : "asks how it went"}
            </span>
          ) : null}
        </h2>
        <p className="mt-2 text-[16.5px] leading-[1.75]">
          Goes out <StepSentence plan={ref} step={step} index={index} /> after {afterWords(rules, index)}
          {step.delay.amount === 0
            ? ", or at the start of the next send hours."
            : ", or at the start of the next send hours."}{" "}
          It goes to {sayCondition(step.onlyIf)}
          {step.from === "team member" ? ", with emails sent in the team member’s name" : ""}.
        </p>
        <p className="text-second mt-2">{insteadWords(step.channel)}</p>
        <p className="mt-3">
          <WordsSentence
            plan={ref}
            step={step}
            index={index}
            wording={wording}
            words={`Change the words${wordings.length > 1 ? ` of ${wording.key.toUpperCase()}` : ""}`}
            placeholders={[...PLACEHOLDERS]}
          />
        </p>
        <Trial
          plan={ref}
          step={step}
          index={index}
          wording={wording}
          tallies={tallies.get(step.key) ?? []}
          href={(key) => stepHref(index, key)}
        />
        {ref.mayChange ? <StepButtons view={view} /> : null}
      </div>
      <HowItReads view={view} as={as} />
    </section>
  );
}

function StepButtons({ view }: { view: PlanView }) {
  const { ref, rules, step, index } = view;
  const isFeeling = rules.style === "how it went first";
  const last = rules.steps.length - 1;
  return (
    <div className="border-rule mt-4 -ml-2 flex flex-wrap gap-x-1 border-t pt-3">
      <StepButton plan={ref} part="move step" fields={{ step: index, to: index - 1 }} disabled={index === 0}>
        Move earlier
      </StepButton>
      <StepButton plan={ref} part="move step" fields={{ step: index, to: index + 1 }} disabled={index === last}>
        Move later
      </StepButton>
      <StepButton
        plan={ref}
        part="remove step"
        fields={{ step: index }}
        disabled={last === 0}
        sure={`Remove “${step.name}” from the plan?`}
      >
        {" "}
        Remove{" "}
      </StepButton>
      {rules.steps.length < 6 ? (
        <StepButton plan={ref} part="add step" fields={{ in: "first" }}>
          Add a message
        </StepButton>
      ) : null}
      {rules.steps.length < 6 && isFeeling ? (
        <StepButton plan={ref} part="add step" fields={{ in: "review" }}>
          Add a message asking for a review
        </StepButton>
      ) : null}
    </div>
  );
}

/** The message as a made-up customer would get it. */
function HowItReads({ view, as }: { view: PlanView; as?: "email" | "text" }) {
  const { setting, step, index, wording, stepHref } = view;
  const shown = as ?? (step.channel === "email" ? "email" : "text");
  const facts = {
    person: { given: "Odette", family: "Marsh" },
    business: setting.client.name,
    branch: setting.branches[0]?.name ?? "",
    service: setting.services.find(({ neverAsk }) => !neverAsk)?.name ?? "visit",
    about: view.about,
    teamMember: setting.team[0]?.name ?? null,
  };
  const words = composeAsk(wording, shown, facts, answerLink("k7q2m9wx4tzr3n", index));
  const parts = shown === "text" ? textParts(words.body) : null;
  return (
    <div>
      <div className="bg-paper rounded-[12px] p-3.5">
        <div
          className="bg-sheet border-rule max-h-[260px] overflow-y-auto rounded-[10px] border px-3.5 py-2.5 text-[14px] whitespace-pre-wrap [overflow-wrap:anywhere]"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reachable by keyboard
          tabIndex={0}
          role="region"
          aria-label="Preview"
        >
          {words.subject ? <p className="mb-1.5 font-semibold">{words.subject}</p> : null}
          {words.body}
        </div>
        <p className="text-second mt-2 flex flex-wrap justify-between gap-x-2 text-[13px]">
          <span>
            {parts
              ? `${sayCount(parts.parts, "part")}, ${parts.units} of ${parts.parts * parts.perPart} characters`
              : "Email preview"}
          </span>
          <Link
            href={`${stepHref(index, wording.key)}&as=${shown === "text" ? "email" : "text"}`}
            scroll={false}
            className="text-ink underline underline-offset-[3px]"
          >
            as {shown === "text" ? "an email" : "a text"}
          </Link>
        </p>
      </div>
    </div>
  );
}

function afterWords(rules: PlanRules, index: number): string {
  const { part } = rules.steps[index];
  if (part === "review" && rules.steps[index - 1]?.part !== "review") return "a happy answer";
  return index === 0 ? ANCHOR_WORDS[rules.begins.kind].says : "the previous message";
}

function insteadWords(channel: PlanRules["steps"][number]["channel"]): string {
  if (channel === "text") return "No mobile number? We’ll send an email instead.";
  if (channel === "email") return "No email address? We’ll send a text instead.";
  if (channel === "both")
    return "The email follows straight after the text. People with only one address just get that one.";
  return "By text if we don’t know what they prefer.";
}
