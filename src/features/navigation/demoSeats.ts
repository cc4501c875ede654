import { environment } from "@/platform/environment";

/** The demo's seats, offered in one click. They exist only in demo mode and in the demo's database. */
export const DEMO_PASSWORD = "merrow-bay-demo";

export const DEMO_SEATS = [
  {
    id: "demo-operator",
    name: "Iris Vane",
    email: "iris@larkspur.example",
    role: "agency",
    client: null,
    says: "Account manager at Larkspur & Vane, all clients",
  },
  {
    id: "demo-manager",
    name: "Maud Ellery",
    email: "maud@bramblelane.example",
    role: "manager",
    client: "bramble-lane-vets",
    says: "Practice manager at Bramble Lane Vets",
  },
  {
    id: "demo-desk",
    name: "Jonah Pell",
    email: "desk@bramblelane.example",
    role: "desk",
    client: "bramble-lane-vets",
    says: "Front desk at Bramble Lane Vets",
  },
] as const;

/** The sign-in of a demo seat, or null outside demo mode and for any other name. */
export function demoSeat(id: string): { email: string; password: string } | null {
  if (!environment().ESTIMA_DEMO) return null;
  const seat = DEMO_SEATS.find((one) => one.id === id);
  return seat ? { email: seat.email, password: DEMO_PASSWORD } : null;
}
