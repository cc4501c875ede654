/** What a field for an answer begins with: room to write, and the name below it; nothing for whoever signs with none. */
export function signed(signature: string | null | undefined): string {
  return signature ? `\n\n${signature}` : "";
}
