import { capital, sayCount, sayTime } from "@/core/time/say";
import { dayNumber, fromLocal, toLocal } from "@/core/time/zone";
import type { Quarter } from "./density";
import { RulerKeys } from "./RulerKeys.client";

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

export type RulerVisit = { id: string; at: number; over: boolean; says: string; href: string };
export type RulerMessage = {
  id: string;
  at: number;
  channel: "text" | "email";
  tone: "planned" | "sent" | "good" | "unhappy" | "waiting";
  says: string;
  href: string;
};

const TONES: Record<RulerMessage["tone"], string> = {
  planned: "border-second bg-sheet",
  sent: "border-ink bg-ink",
  good: "border-leaf bg-leaf",
  unhappy: "border-vermilion bg-vermilion",
  waiting: "border-ochre bg-ochre-tint",
};

/**
 * One day as a line: closed hours hatched, visits as ticks above, messages as marks below (circle email, square text;
 * outline planned, filled sent; colour what came back), and a line for now. Every mark is a link; the arrow keys go
 * from one to the next; the same facts stand in a table behind it.
 */
export function DayRuler({
  zone,
  day,
  open,
  visits,
  messages,
  crowd,
  now,
  bundleHref,
  firstHour = 7,
  lastHour = 21,
}: {
  zone: string;
  day: number;
  open: { from: number; to: number }[];
  visits: RulerVisit[];
  messages: RulerMessage[];
  /** Instead of the marks, where they are too many to be told apart: how many lie in each quarter of an hour. */
  crowd: Quarter[] | null;
  now: number;
  /** Where the marks of a crowded day lead: the day's messages. */
  bundleHref: string;
  firstHour?: number;
  lastHour?: number;
}) {
  const from = fromLocal(zone, day * DAY + firstHour * HOUR);
  const to = fromLocal(zone, day * DAY + lastHour * HOUR);
  const place = (at: number) => Math.min(100, Math.max(0, ((at - from) / (to - from)) * 100));
  const hours = Array.from({ length: lastHour - firstHour + 1 }, (_, index) => firstHour + index);
  const isToday = dayNumber(toLocal(zone, now)) === day;
  const isShown = ({ at }: { at: number }) => at >= from && at <= to;
  const sum = (what: "visits" | "messages", of: Quarter[]) => of.reduce((all, quarter) => all + quarter[what], 0);
  const total = crowd
    ? { visits: sum("visits", crowd), messages: sum("messages", crowd) }
    : { visits: visits.length, messages: messages.length };
  const drawn = { visits: visits.filter(isShown), messages: messages.filter(isShown) };
  const outside = total.messages - (crowd ? sum("messages", crowd.filter(isShown)) : drawn.messages.length);
  const saysQuarter = (quarter: Quarter) =>
    `${sayTime(zone, quarter.at)} to ${sayTime(zone, quarter.at + 15 * 60_000)}: ${sayCount(quarter.visits, "visit")}, ${sayCount(quarter.messages, "message")}`;
  return (
    <RulerKeys
      legend={
        <>
          <b className="text-ink">{capital(sayCount(total.visits, "visit"))}</b> above the line,{" "}
          <b className="text-ink">{sayCount(total.messages, "message")}</b> below: <Shape channel="email" /> email{" "}
          <Shape channel="text" /> text, filled when sent, green when answered
          {crowd ? ", grouped by quarter hour" : ""}
          {outside > 0 ? `, ${outside} outside these hours` : ""}
        </>
      }
      table={
        <DayTable
          zone={zone}
          rows={
            crowd?.map((quarter) => ({ id: `${quarter.at}`, at: quarter.at, says: saysQuarter(quarter) })) ??
            [...visits, ...messages].sort((a, b) => a.at - b.at)
          }
        />
      }
    >
      <div className="relative mx-[10px] h-[96px] min-w-[640px]">
        <div className="absolute inset-x-0 top-0 h-[72px]">
          <div className="hatched absolute inset-0" />
          {open.map((stretch) => (
            <div
              key={stretch.from}
              className="bg-sheet absolute inset-y-0"
              style={{ left: `${place(stretch.from)}%`, width: `${place(stretch.to) - place(stretch.from)}%` }}
            />
          ))}
          {hours.map((hour) => (
            <div
              key={hour}
              className="border-rule absolute inset-y-0 border-l"
              style={{ left: `${place(fromLocal(zone, day * DAY + hour * HOUR))}%` }}
            />
          ))}
          <div className="border-second absolute inset-x-0 top-[35px] border-t-2" />
          {crowd ? <Crowd quarters={crowd.filter(isShown)} place={place} says={saysQuarter} href={bundleHref} /> : null}
          <Marks visits={drawn.visits} messages={drawn.messages} place={place} />
        </div>
        {hours.map((hour) => (
          <span
            key={hour}
            aria-hidden="true"
            className="text-second absolute top-[76px] -translate-x-1/2 text-[12px]"
            style={{ left: `${place(fromLocal(zone, day * DAY + hour * HOUR))}%` }}
          >
            {hour}
          </span>
        ))}
        {isToday && now >= from && now <= to ? (
          <div
            data-now=""
            className="pointer-events-none absolute -top-[22px] z-30 flex -translate-x-1/2 flex-col items-center"
            style={{ left: `${place(now)}%` }}
          >
            <span className="bg-pistachio text-on-pistachio rounded-full px-2.5 text-[12.5px] leading-[20px] font-semibold">
              {sayTime(zone, now)}
            </span>
            <span className="bg-mulberry h-[76px] w-[3px] rounded-full" />
          </div>
        ) : null}
      </div>
    </RulerKeys>
  );
}

type Place = (at: number) => number;

/** Visits and messages by the quarter of an hour, as high as there are many. */
function Crowd({
  quarters,
  place,
  says,
  href,
}: {
  quarters: Quarter[];
  place: Place;
  says: (quarter: Quarter) => string;
  href: string;
}) {
  const fullest = Math.max(1, ...quarters.map((quarter) => Math.max(quarter.visits, quarter.messages)));
  return (
    <>
      {quarters.map((quarter) => (
        <a
          key={quarter.at}
          href={href}
          data-mark={says(quarter)}
          tabIndex={-1}
          aria-label={says(quarter)}
          className="group absolute inset-y-0 z-10 hover:z-20"
          style={{
            left: `${place(quarter.at)}%`,
            width: `${place(quarter.at + 15 * 60_000) - place(quarter.at)}%`,
          }}
        >
          <span
            className="bg-ink absolute right-px bottom-[37px] left-px rounded-t-[1px]"
            style={{ height: (30 * quarter.visits) / fullest }}
          />
          <span
            className="bg-mulberry absolute top-[37px] right-px left-px rounded-b-[1px]"
            style={{ height: (34 * quarter.messages) / fullest }}
          />
        </a>
      ))}
    </>
  );
}

/** A tick for each visit, a shape for each message. */
function Marks({ visits, messages, place }: { visits: RulerVisit[]; messages: RulerMessage[]; place: Place }) {
  const lanes = laneOf(messages.map((message) => place(message.at)));
  return (
    <>
      {visits.map((visit, index) => (
        <a
          key={visit.id}
          href={visit.href}
          data-mark={visit.says}
          tabIndex={-1}
          aria-label={visit.says}
          className="group absolute top-[6px] z-10 flex h-[28px] w-[9px] -translate-x-1/2 items-end justify-center hover:z-20"
          style={{ left: `${place(visit.at)}%` }}
        >
          <span
            style={{ height: 14 + ((index * 7) % 13) }}
            className={`w-[2px] rounded-[1px] group-hover:w-[4px] ${visit.over ? "bg-ink" : "bg-edge"}`}
          />
        </a>
      ))}
      {messages.map((message, index) => {
        return (
          <a
            key={message.id}
            href={message.href}
            data-mark={message.says}
            tabIndex={-1}
            aria-label={message.says}
            className="absolute z-10 grid size-[13px] -translate-x-1/2 place-items-center hover:z-20 hover:scale-150"
            style={{ left: `${place(message.at)}%`, top: 38 + lanes[index] * 11 }}
          >
            <span
              className={`size-[8px] border-[1.5px] ${message.channel === "email" ? "rounded-full" : "rounded-[2px]"} ${TONES[message.tone]}`}
            />
          </a>
        );
      })}
    </>
  );
}

function DayTable({ zone, rows }: { zone: string; rows: { id: string; at: number; says: string }[] }) {
  return (
    <table>
      <caption>The day as a table</caption>
      <thead>
        <tr>
          <th>Time</th>
          <th>What</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((mark) => (
          <tr key={mark.id}>
            <td>{sayTime(zone, mark.at)}</td>
            <td>{mark.says}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The shape that stands for a channel, for legends and lists. */
export function Shape({
  channel,
  className = "border-second bg-sheet",
}: {
  channel: "text" | "email";
  className?: string;
}) {
  return (
    <span
      aria-hidden="true"
      className={`inline-block size-[9px] border-[1.5px] align-[-0.5px] ${channel === "email" ? "rounded-full" : "rounded-[2px]"} ${className}`}
    />
  );
}

/** Puts marks that would touch on the next of three lines. */
function laneOf(places: number[]): number[] {
  const last = [-9, -9, -9];
  const order = places.map((place, index) => ({ place, index })).sort((a, b) => a.place - b.place);
  const lanes: number[] = new Array(places.length).fill(0);
  for (const { place, index } of order) {
    const free = last.findIndex((before) => place - before > 0.85);
    const lane = free === -1 ? last.indexOf(Math.min(...last)) : free;
    last[lane] = place;
    lanes[index] = lane;
  }
  return lanes;
}
