import { type SaidBeside as Said, sayRecommend } from "../beside";

/** What somebody said beside rating and words. */
export function SaidBeside({ said, slug, name }: { said: Said; slug: string; name?: string }) {
  const aspects = Object.entries(said.aspects);
  return (
    <div className="mt-2 space-y-1.5 text-[15px]">
      {aspects.length > 0 || said.recommend !== null ? (
        <ul className="flex flex-wrap gap-x-5 gap-y-1">
          {aspects.map(([aspect, rating]) => (
            <li key={aspect}>
              {aspect}: <b>{rating === null ? "doesn’t apply" : `${rating} of 5`}</b>
            </li>
          ))}
          {said.recommend === null ? null : <li>{sayRecommend(said.recommend)}</li>}
        </ul>
      ) : null}
      {Object.entries(said.more).map(([question, words]) => (
        <p key={question}>
          <span className="text-second block text-[14px]">{question}</span>“{words}”
        </p>
      ))}
      {said.photo ? (
        <a href={`/c/${slug}/heard/photos/${said.photo}`} className="inline-block">
          {/* biome-ignore lint/performance/noImgElement: it is drawn to its size when it arrives */}
          <img
            src={`/c/${slug}/heard/photos/${said.photo}`}
            alt={`What ${name ?? "they"} sent`}
            className="border-rule max-h-[220px] max-w-full rounded-[8px] border"
            loading="lazy"
          />
        </a>
      ) : null}
    </div>
  );
}
