"use client";

/** Sends a picture, or none, to an address that takes it. Gives what the address answered, or what went wrong in words. */
export async function sendPicture(
  to: string,
  file: File | null,
): Promise<{ ok: true; answer: unknown } | { ok: false; says: string }> {
  const form = new FormData();
  if (file) form.append("picture", file);
  const answer = await fetch(to, { method: "POST", body: form }).catch(() => null);
  const read = (await answer?.json().catch(() => null)) as { detail?: string } | null | undefined;
  if (answer?.ok) return { ok: true, answer: read };
  return { ok: false, says: read?.detail || "The connection dropped and nothing was changed." };
}
