"use client";

import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { BACKGROUNDS, PICTURE, type PictureDesign, placeWords } from "@/core/words/namedPicture";
import { ActionForm } from "@/ui/ActionForm.client";
import { ColourField } from "@/ui/ColourField.client";
import { PICTURE_FILES } from "@/ui/PictureForm.client";
import { sendPicture } from "@/ui/sendPicture.client";
import { changePlan } from "../actions";
import type { PlanRef } from "./planRef";

const SLIDERS = [
  ["x", "Horizontal position", 0, 100, "%"],
  ["y", "Vertical position", 0, 100, "%"],
  ["size", "Letter size", 4, 30, "%"],
  ["angle", "Rotation", -45, 45, "°"],
] as const;

/** Names that show what may happen: a usual one, a long one, Polish letters, none. */
const NAMES = [
  ["Odette", "An ordinary name"],
  ["Wilhelmina-Bartholomea", "A long one"],
  ["Łucja", "Polish letters"],
  ["", "No name, or one we can’t draw"],
] as const;

/** The picture of a plan: its words are dragged to their place, or put there by sliders. */
export function PictureEditor({
  plan,
  base,
  design: kept,
  words,
  ownColour,
}: {
  plan: PlanRef;
  /** The address of the plan's picture, below which it is drawn and takes photos. */
  base: string;
  design: PictureDesign;
  /** What stands in it for Odette. */
  words: string;
  ownColour: string;
}) {
  const [design, setDesign] = useState(kept);
  const [says, setSays] = useState("");
  const change = (part: Partial<PictureDesign>) => setDesign((before) => ({ ...before, ...part }));
  const upload = async (file: File) => {
    setSays("Uploading…");
    const sent = await sendPicture(`${base}/photo`, file);
    setSays(sent.ok ? "" : sent.says);
    if (sent.ok) change({ photo: (sent.answer as { id: string }).id });
  };
  return (
    <ActionForm action={changePlan.bind(null, plan.slug, plan.planId, plan.revision)}>
      {({ pending, error }) => (
        <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_300px]">
          <div>
            <Canvas base={base} design={design} words={words} change={change} mayChange={plan.mayChange} />
            <ul className="mt-4 grid grid-cols-2 gap-3">
              {NAMES.map(([name, says]) => (
                <li key={says}>
                  <Drawn base={base} design={design} name={name} alt={says} />
                  <span className="text-second text-[13px]">{says}</span>
                </li>
              ))}
            </ul>
          </div>
          {plan.mayChange ? (
            <div className="space-y-4">
              <input type="hidden" name="part" value="picture design" />
              <Backgrounds base={base} design={design} change={change} />
              <div>
                <label className="button has-[:focus-visible]:outline-2 cursor-pointer">
                  {design.photo ? "Another photo" : "Your own photo"}
                  <input
                    type="file"
                    className="sr-only"
                    accept={PICTURE_FILES}
                    onChange={(event) => {
                      const [file] = event.target.files ?? [];
                      if (file) void upload(file);
                      event.target.value = "";
                    }}
                  />
                </label>
                <p role="status" className="text-second mt-1 text-[14px]">
                  {says}
                </p>
              </div>
              {SLIDERS.map(([name, label, min, max, unit]) => (
                <label key={name} className="block">
                  <span className="label flex justify-between">
                    {label}
                    <span className="text-second">
                      {Math.round(design[name])} {unit}
                    </span>
                  </span>
                  <input
                    type="range"
                    name={name}
                    min={min}
                    max={max}
                    step={1}
                    value={Math.round(design[name])}
                    onChange={(event) => change({ [name]: Number(event.target.value) })}
                    className="w-full"
                  />
                  {error(name)}
                </label>
              ))}
              <Colours design={design} ownColour={ownColour} change={change} />
              <input type="hidden" name="photo" value={design.photo ?? ""} />
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Saving…" : "Save"}
              </button>
            </div>
          ) : null}
        </div>
      )}
    </ActionForm>
  );
}

type Part = { base: string; design: PictureDesign };
type Changing = { change: (part: Partial<PictureDesign>) => void };

/** Where the picture of a design is drawn; without a name the background alone. */
function addressOf({ base, design }: Part, name: string | null): string {
  const { photo, ...plain } = design;
  const parts = Object.entries({ ...plain, ...(photo ? { photo } : {}), ...(name === null ? {} : { name }) });
  return `${base}/preview?${new URLSearchParams(parts.map(([key, value]) => [key, String(value)]))}`;
}

/** A picture as it arrives, drawn once its design rests. */
function Drawn({ name, alt, ...part }: Part & { name: string | null; alt: string }) {
  const wanted = addressOf(part, name);
  const [address, setAddress] = useState(wanted);
  useEffect(() => {
    const wait = setTimeout(() => setAddress(wanted), 250);
    return () => clearTimeout(wait);
  }, [wanted]);
  return (
    // biome-ignore lint/performance/noImgElement: it is drawn to its size on the server
    <img
      src={address}
      alt={alt}
      width={PICTURE.width}
      height={PICTURE.height}
      className="border-rule h-auto w-full rounded-[8px] border"
      draggable={false}
    />
  );
}

const within = (value: number) => Math.min(100, Math.max(0, Math.round(value * 10) / 10));

/** The picture with a box around its words that is dragged, or moved with the arrow keys. */
function Canvas({ base, design, words, change, mayChange }: Part & Changing & { words: string; mayChange: boolean }) {
  const frame = useRef<HTMLDivElement>(null);
  const from = useRef<{ x: number; y: number; at: PictureDesign } | null>(null);
  const placed = placeWords(words, design);
  const percent = (value: number, of: number) => `${(value / of) * 100}%`;
  const drag = (event: PointerEvent) => {
    const box = frame.current?.getBoundingClientRect();
    if (!from.current || !box) return;
    const { x, y, at } = from.current;
    change({
      x: within(at.x + ((event.clientX - x) / box.width) * 100),
      y: within(at.y + ((event.clientY - y) / box.height) * 100),
    });
  };
  const step = (event: KeyboardEvent) => {
    const [right, down] =
      { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key] ?? [];
    if (right === undefined || down === undefined) return;
    event.preventDefault();
    change({ x: within(design.x + right), y: within(design.y + down) });
  };
  return (
    <div ref={frame} className="relative touch-none">
      <Drawn base={base} design={design} name="Odette" alt={`The picture for Odette: ${words}`} />
      {mayChange ? (
        <button
          type="button"
          aria-label="The words: drag them, or use the arrow keys"
          className="border-ink/60 hover:border-ink absolute cursor-move rounded-[4px] border border-dashed"
          style={{
            left: percent(placed.x - placed.width / 2, PICTURE.width),
            top: percent(placed.y - placed.height / 2, PICTURE.height),
            width: percent(placed.width, PICTURE.width),
            height: percent(placed.height, PICTURE.height),
            rotate: `${placed.angle}deg`,
          }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            from.current = { x: event.clientX, y: event.clientY, at: design };
          }}
          onPointerMove={drag}
          onPointerUp={() => {
            from.current = null;
          }}
          onKeyDown={step}
        />
      ) : null}
    </div>
  );
}

function Backgrounds({ base, design, change }: Part & Changing) {
  return (
    <fieldset>
      <legend className="label">Background</legend>
      <div className="grid grid-cols-3 gap-2">
        {BACKGROUNDS.map((background) => (
          <label
            key={background}
            className="has-[:checked]:border-mulberry border-rule has-[:focus-visible]:outline-2 cursor-pointer overflow-hidden rounded-[8px] border-2"
          >
            <input
              type="radio"
              name="background"
              value={background}
              checked={design.photo === null && design.background === background}
              onChange={() => change({ background, photo: null })}
              className="sr-only"
            />
            <Drawn base={base} design={{ ...PLAIN, background }} name={null} alt={background} />
          </label>
        ))}
      </div>
      {/* A photo covers the background, which shows again where the photo is gone. */}
      {design.photo ? <input type="hidden" name="background" value={design.background} /> : null}
    </fieldset>
  );
}

/** A design that differs in nothing but its background. */
const PLAIN: Omit<PictureDesign, "background"> = { photo: null, x: 50, y: 50, size: 10, angle: 0, colour: "#000000" };

function Colours({ design, ownColour, change }: Changing & { design: PictureDesign; ownColour: string }) {
  return (
    <ColourField
      id="picture-colour"
      name="colour"
      label="Text colour"
      value={design.colour}
      onChange={(colour) => change({ colour })}
      extra={[
        [ownColour, "Your colour"],
        ["#221A2C", "Ink"],
        ["#FFFFFF", "White"],
      ]}
      sample={null}
    />
  );
}
