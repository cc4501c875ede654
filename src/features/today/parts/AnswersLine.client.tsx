"use client";

import { Line, LineChart, ResponsiveContainer } from "recharts";
import { sayFigure } from "@/core/time/say";

/** Asked and answered per day, small; the sentence above it says the same for the week. */
export function AnswersLine({ days }: { days: { day: string; asked: number; answered: number }[] }) {
  if (days.every(({ asked }) => asked === 0)) return null;
  const total = days.reduce((sum, { answered }) => sum + answered, 0);
  return (
    <figure>
      <div className="h-[64px]" aria-hidden="true">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart accessibilityLayer={false} data={days} margin={{ top: 4, bottom: 4, left: 0, right: 0 }}>
            <Line
              type="linear"
              dataKey="asked"
              stroke="var(--edge)"
              strokeDasharray="3 4"
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
            <Line
              type="linear"
              dataKey="answered"
              stroke="var(--leaf)"
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <figcaption className="text-[13px]">
        Asked (dotted) and answered over three weeks: {sayFigure(total, "answer")}.
      </figcaption>
    </figure>
  );
}
