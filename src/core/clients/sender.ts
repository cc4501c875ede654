/** From where a client's emails go out, and where answers to them go as well. */
export type SendingFrom = {
  address: string;
  /** Another address for answers, beside the one that brings them here; null for none. */
  replyTo: string | null;
};

/**
 * The address that emails go out from. Anyone can type an address, so the client's own is used only once whoever reads
 * its mail said yes; until then emails go out from the agency's confirmed address, or from the installation's, and
 * answers to them go to the client's address as well.
 *
 * @param agency the agency's confirmed address; null or empty for none
 * @param installation the address of the installation itself
 * @example sendingFrom({ senderEmail: "hello@vet.example", isConfirmed: false }, "post@agency.example", "estima@host.example")
 *   // { address: "post@agency.example", replyTo: "hello@vet.example" }
 */
export function sendingFrom(
  client: { senderEmail: string; isConfirmed: boolean },
  agency: string | null,
  installation: string,
): SendingFrom {
  if (client.isConfirmed) return { address: client.senderEmail, replyTo: null };
  return { address: agency || installation, replyTo: client.senderEmail };
}
