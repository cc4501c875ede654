/** What is usual in a trade, to begin with: services, which of them are never asked about, and the plan that fits. */

export type Trade = {
  key: string;
  name: string;
  /** What a customer's visit is called there. */
  services: readonly { name: string; neverAsk?: boolean }[];
  /** The key of the plan to start from. */
  plan: "appointment" | "job" | "invoice" | "feeling";
};

const trade = (key: string, name: string, plan: Trade["plan"], services: string[], never: string[] = []): Trade => ({
  key,
  name,
  plan,
  services: [
    ...services.map((service) => ({ name: service })),
    ...never.map((service) => ({ name: service, neverAsk: true })),
  ],
});

export const TRADES: readonly Trade[] = [
  trade(
    "vets",
    "Vets",
    "appointment",
    ["Check-up", "Vaccination", "Dental care", "Surgery follow-up"],
    ["End-of-life care"],
  ),
  trade(
    "opticians",
    "Opticians",
    "appointment",
    ["Eye test", "Contact lens fitting", "Glasses collection"],
    ["Referral to hospital"],
  ),
  trade("driving", "Driving school", "feeling", ["Lesson", "Test day", "Motorway lesson"]),
  trade("music", "Music school", "feeling", ["Lesson", "Trial lesson", "Exam accompaniment"]),
  trade("tailors", "Tailors", "appointment", ["Fitting", "Alteration", "Made to measure"]),
  trade("locksmiths", "Locksmiths", "job", ["Lock change", "Locked out", "Safe opening"], ["After a burglary"]),
  trade("upholsterers", "Upholsterers", "job", ["Reupholstery", "Repair", "Collection and delivery"]),
  trade("trees", "Tree surgeons", "job", ["Pruning", "Felling", "Stump removal", "Survey"]),
  trade("chimneys", "Chimney and stove", "job", ["Chimney sweep", "Stove service", "Stove fitting"]),
  trade("pianos", "Piano care", "job", ["Tuning", "Repair", "Piano moving"]),
  trade("cycles", "Bike shops", "invoice", ["Service", "Repair", "New bicycle"], ["Insurance assessment"]),
  trade("boats", "Boatyard", "invoice", ["Winter storage", "Engine service", "Hull repair"]),
  trade("other", "Another trade", "appointment", ["Appointment"]),
];
