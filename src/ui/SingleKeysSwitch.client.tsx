"use client";

import { useEffect, useState } from "react";
import { areSingleKeysOff, switchSingleKeys } from "./singleKeys.client";

/** Whether single keys work in this browser. */
export function SingleKeysSwitch() {
  const [isOn, setOn] = useState(true);
  useEffect(() => setOn(!areSingleKeysOff()), []);
  return (
    <label className="flex min-h-[32px] items-center gap-2.5">
      <input
        type="checkbox"
        checked={isOn}
        onChange={(event) => {
          if (switchSingleKeys(!event.target.checked)) setOn(event.target.checked);
        }}
        className="size-[18px]"
      />
      Use single-key shortcuts in this browser
    </label>
  );
}
