"use client";

import { type ReactNode, useState } from "react";

/** A box on which files can be dropped: a second way to what a button inside does. */
export function DropArea({
  onFiles,
  className,
  children,
}: {
  onFiles: (files: FileList) => void;
  className: string;
  children: ReactNode;
}) {
  const [isOver, setOver] = useState(false);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is a second way to what the button inside does
    <div
      className={`border border-dashed ${className} ${isOver ? "border-mulberry bg-mulberry-tint" : "border-edge bg-sheet"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        if (event.dataTransfer.files.length > 0) onFiles(event.dataTransfer.files);
      }}
    >
      {children}
    </div>
  );
}
