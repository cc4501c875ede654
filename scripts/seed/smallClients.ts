import type { Trade } from "../../standins/townsfolk/words";
import type { DemoClient } from "./scenario";

/**
 * The agency's smaller clients: a visit or a few on a weekday each. All names are made up. What is wrong at some of them
 * is planted in `faults.ts`.
 */

type Small = {
  slug: string;
  name: string;
  trade: Trade;
  street: string;
  services: string[];
  team: string[];
  /** Visits on a weekday. */
  perDay?: number;
  /** Share of its people whose mail comes back. */
  lapsed?: number;
  /** Nothing was brought in for so many days before the demo begins. */
  quietDays?: number;
  /** Nobody there answers what was heard. */
  isUnattended?: boolean;
  group: "West shore" | "Workshops" | null;
};

const SMALL: Small[] = [
  {
    slug: "fenlight-opticians",
    name: "Fenlight Opticians",
    trade: "counter",
    street: "6 Market Row, Fenwick",
    services: ["Eye test", "Glasses collection"],
    team: ["Nell Ashby"],
    group: "West shore",
  },
  {
    slug: "oriel-eyecare",
    name: "Oriel Eyecare",
    trade: "counter",
    street: "1 Oriel Court, Merrow Bay",
    services: ["Eye test", "Contact lens fitting"],
    team: ["Piers Dell", "Una Frost"],
    perDay: 2,
    isUnattended: true,
    group: null,
  },
  {
    slug: "saltmarsh-spectacles",
    name: "Saltmarsh Spectacles",
    trade: "counter",
    street: "40 Saltpan Way",
    services: ["Eye test", "Repair"],
    team: ["Rhea Moon"],
    group: "West shore",
  },
  {
    slug: "ironquay-locksmiths",
    name: "Ironquay Locksmiths",
    trade: "at home",
    street: "3 Iron Quay",
    services: ["Lock change", "Locked out"],
    team: ["Abel Rusk", "Dina Rusk"],
    perDay: 6,
    quietDays: 4,
    group: null,
  },
  {
    slug: "tumbler-and-pin",
    name: "Tumbler & Pin",
    trade: "at home",
    street: "15 Chandlers Row",
    services: ["Lock change", "Safe opening"],
    team: ["Gus Tarrant"],
    group: "Workshops",
  },
  {
    slug: "nightlatch-fenwick",
    name: "Nightlatch of Fenwick",
    trade: "at home",
    street: "2 Mill Road, Fenwick",
    services: ["Locked out", "Lock change"],
    team: ["Ivo Lamb"],
    group: null,
  },
  {
    slug: "webbing-and-tack",
    name: "Webbing & Tack",
    trade: "workshop",
    street: "The Old Sail Loft, Quay Street",
    services: ["Reupholstery", "Repair"],
    team: ["Marn Holt"],
    group: "Workshops",
  },
  {
    slug: "horsehair-row",
    name: "Horsehair Row",
    trade: "workshop",
    street: "8 Tarry Lane",
    services: ["Reupholstery"],
    team: ["Cass Dorn"],
    group: "Workshops",
  },
  {
    slug: "long-acre-chairs",
    name: "Long Acre Chairs",
    trade: "workshop",
    street: "Long Acre Farm",
    services: ["Repair", "Caning"],
    team: ["Old Bly", "Young Bly"],
    group: null,
  },
  {
    slug: "quaver-street-music",
    name: "Quaver Street Music",
    trade: "lessons",
    street: "27 Quaver Street",
    services: ["Lesson", "Trial lesson"],
    team: ["Ottoline Reef", "Sol Marchetti"],
    perDay: 3,
    group: null,
  },
  {
    slug: "reed-and-bow",
    name: "Reed & Bow",
    trade: "lessons",
    street: "5 Lantern Hill",
    services: ["Lesson"],
    team: ["Hester Vim"],
    group: "West shore",
  },
  {
    slug: "harbour-strings",
    name: "Harbour Strings",
    trade: "lessons",
    street: "12 Quay Street",
    services: ["Lesson", "Exam accompaniment"],
    team: ["Bo Lindgard"],
    group: null,
  },
  {
    slug: "ropewalk-bicycles",
    name: "Ropewalk Bicycles",
    trade: "workshop",
    street: "Unit 7, The Ropewalk",
    services: ["Service", "New bicycle"],
    team: ["Fenn Attwater"],
    perDay: 3,
    group: "Workshops",
  },
  {
    slug: "chainring-yard",
    name: "Chainring Yard",
    trade: "workshop",
    street: "Chainring Yard, Fenwick",
    services: ["Service", "Repair"],
    team: ["Lou Marsh"],
    group: "Workshops",
  },
  {
    slug: "greenway-frames",
    name: "Greenway Frames",
    trade: "workshop",
    street: "The Goods Shed",
    services: ["New bicycle", "Repair"],
    team: ["Tam Orde"],
    group: null,
  },
  {
    slug: "crown-and-limb",
    name: "Crown & Limb",
    trade: "at home",
    street: "Fernhollow Lane",
    services: ["Pruning", "Felling"],
    team: ["Ash Warrender", "Jude Copse"],
    perDay: 2,
    group: null,
  },
  {
    slug: "merrow-canopy",
    name: "Merrow Canopy",
    trade: "at home",
    street: "9 Upper Fen",
    services: ["Pruning", "Stump removal"],
    team: ["Wim Ling"],
    group: "West shore",
  },
  {
    slug: "fernhollow-trees",
    name: "Fernhollow Trees",
    trade: "at home",
    street: "Fernhollow",
    services: ["Survey", "Felling"],
    team: ["Rowan Gage"],
    group: null,
  },
  {
    slug: "selvedge-and-daughter",
    name: "Selvedge & Daughter",
    trade: "counter",
    street: "18 Basting Row",
    services: ["Fitting", "Alteration"],
    team: ["Mr Selvedge", "Ines Selvedge"],
    perDay: 3,
    lapsed: 0.3,
    group: null,
  },
  {
    slug: "basting-row-tailors",
    name: "Basting Row Tailors",
    trade: "counter",
    street: "20 Basting Row",
    services: ["Alteration", "Made to measure"],
    team: ["Ola Finch"],
    group: "West shore",
  },
  {
    slug: "cuff-and-collar",
    name: "Cuff & Collar of the Bay",
    trade: "counter",
    street: "33 Market Row",
    services: ["Alteration"],
    team: ["Dot Perrin"],
    group: null,
  },
  {
    slug: "saltpan-boat-yard",
    name: "Saltpan Boat Yard",
    trade: "workshop",
    street: "Saltpan Basin",
    services: ["Winter storage", "Engine service"],
    team: ["Skip Anders", "Gill Tern"],
    group: "Workshops",
  },
  {
    slug: "lantern-slip",
    name: "Lantern Slip",
    trade: "workshop",
    street: "Lantern Slip, Merrow Bay",
    services: ["Hull repair", "Engine service"],
    team: ["Noll Kedge"],
    group: null,
  },
  {
    slug: "keelhouse-yard",
    name: "Keelhouse Yard",
    trade: "workshop",
    street: "2 Keelhouse Lane",
    services: ["Winter storage", "Hull repair"],
    team: ["Peg Stroud"],
    group: null,
  },
];

const COLOURS = ["#2F5D50", "#1F4E79", "#7A4A21", "#5B3A29", "#4A3B78", "#6B2D3E"];

export const SMALL_CLIENTS: DemoClient[] = SMALL.map((it, index) => ({
  slug: it.slug,
  name: it.name,
  trade: it.trade,
  colour: COLOURS[index % COLOURS.length],
  senderEmail: `hello@${it.slug.replaceAll("-", "")}.example`,
  // Of the numbers kept for fiction in another town than people's: nobody in the demo has one.
  textNumber: `+44121496${String(100 + index).padStart(4, "0")}`,
  postalAddress: `${it.name}, ${it.street}`,
  branches: [{ name: it.street.split(",")[0], address: it.street, place: it.slug }],
  services: it.services.map((name, at) => ({ name, share: at === 0 ? 70 : 30 })),
  team: it.team,
  perDay: [it.perDay ?? 1, it.trade === "counter" ? 1 : 0, 0],
  people: (it.perDay ?? 1) * 45,
  // The mobile numbers kept for fiction are all taken: these people have email.
  mobiles: [976, 975],
  about: null,
  lapsed: it.lapsed,
  quietDays: it.quietDays,
  isUnattended: it.isUnattended,
  group: it.group,
}));
