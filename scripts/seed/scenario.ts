import type { StarterRole } from "@/core/access/permissions";
import { DEMO_SEATS } from "@/features/navigation";
import type { Trade } from "../../standins/townsfolk/words";

/**
 * Who there is in the demo. Everything and everybody here is made up; phones and domains are those kept for fiction.
 */

export const ZONE = "Europe/London";
/** The demo opens on a Tuesday afternoon. */
export const DEMO_NOW = Date.UTC(2026, 10, 24, 14, 5);
export const HISTORY_DAYS = 60;
export const AHEAD_DAYS = 14;
export const SEED = 20261124;
export const AGENCY = "Larkspur & Vane";

/** The seats offered in one click, one more that only signs in by password, and one that may only read. */
export const SEATS: { id: string; name: string; email: string; role: StarterRole; client: string | null }[] = [
  ...DEMO_SEATS,
  { id: "demo-second", name: "Tobias Lark", email: "tobias@larkspur.example", role: "agency", client: null },
  {
    id: "demo-piano",
    name: "Corin Teale",
    email: "corin@copperline.example",
    role: "manager",
    client: "copperline-piano-care",
  },
  {
    id: "demo-reader",
    name: "Ada Brock",
    email: "reader@bramblelane.example",
    role: "reader",
    client: "bramble-lane-vets",
  },
];

export type DemoClient = {
  slug: string;
  name: string;
  trade: Trade;
  colour: string;
  senderEmail: string;
  textNumber: string;
  postalAddress: string;
  branches: { name: string; address: string; place: string }[];
  services: { name: string; share: number; neverAsk?: boolean }[];
  team: string[];
  /** How many visits end on a weekday, a Saturday, a Sunday. */
  perDay: [number, number, number];
  people: number;
  /** The fictional mobile numbers it uses: +44 7700 900 followed by these. */
  mobiles: [number, number];
  about: string[] | null;
  /** Share of its people whose mail comes back; as usual where nothing is said. */
  lapsed?: number;
  /** Nothing was brought in for so many days before the demo begins. */
  quietDays?: number;
  /** Nobody there answers what was heard. */
  isUnattended?: boolean;
  /** Which of the agency's groups it belongs to. */
  group?: string | null;
};

export const CLIENTS: DemoClient[] = [
  {
    slug: "bramble-lane-vets",
    name: "Bramble Lane Vets",
    trade: "vets",
    colour: "#2F5D50",
    senderEmail: "hello@bramblelane.example",
    textNumber: "+447700900990",
    postalAddress: "Bramble Lane Vets, 4 Bramble Lane, Merrow Bay",
    branches: [
      { name: "Merrow Bay", address: "4 Bramble Lane, Merrow Bay", place: "bramble-lane-merrow-bay" },
      { name: "Fenwick", address: "18 Market Row, Fenwick", place: "bramble-lane-fenwick" },
      { name: "Old Mill", address: "The Old Mill, Mill Road", place: "bramble-lane-old-mill" },
    ],
    services: [
      { name: "Check-up", share: 34 },
      { name: "Vaccination", share: 26 },
      { name: "Dental care", share: 12 },
      { name: "Nail trim", share: 12 },
      { name: "Surgery follow-up", share: 12 },
      { name: "End-of-life care", share: 4, neverAsk: true },
    ],
    team: ["Dr Hale", "Dr Reyne", "Dr Amari", "Nurse Lund", "Nurse Arkwright"],
    perDay: [40, 24, 0],
    people: 2600,
    mobiles: [0, 799],
    about: [
      "Biscuit",
      "Pip",
      "Juno",
      "Moss",
      "Tansy",
      "Otto",
      "Clover",
      "Barnaby",
      "Wren",
      "Pickle",
      "Hazel",
      "Rufus",
      "Maple",
      "Dot",
      "Bramley",
      "Nettle",
      "Figgy",
      "Toast",
      "Sable",
      "Minnow",
      "Comet",
      "Poppet",
      "Rolo",
      "Ember",
      "Thistle",
      "Badger",
      "Olive",
      "Scout",
      "Inky",
      "Teasel",
    ],
  },
  {
    slug: "blue-heron-driving",
    name: "Blue Heron Driving School",
    trade: "driving",
    colour: "#1F4E79",
    senderEmail: "lessons@blueheron.example",
    textNumber: "+447700900991",
    postalAddress: "Blue Heron Driving School, 2 Quay Street, Merrow Bay",
    branches: [{ name: "Quay Street", address: "2 Quay Street, Merrow Bay", place: "blue-heron-driving" }],
    services: [
      { name: "Driving lesson", share: 80 },
      { name: "Mock test", share: 14 },
      { name: "Theory evening", share: 6 },
    ],
    team: ["Lorna Quill", "Bashir Onwu"],
    perDay: [5, 3, 0],
    people: 64,
    mobiles: [800, 859],
    about: null,
  },
  {
    slug: "copperline-piano-care",
    name: "Copperline Piano Care",
    trade: "piano",
    colour: "#7A4A21",
    senderEmail: "corin@copperline.example",
    textNumber: "+447700900992",
    postalAddress: "Copperline Piano Care, Unit 3, The Ropewalk, Merrow Bay",
    branches: [{ name: "The Ropewalk", address: "Unit 3, The Ropewalk, Merrow Bay", place: "copperline-piano-care" }],
    services: [
      { name: "Tuning", share: 75 },
      { name: "Repair", share: 25 },
    ],
    team: ["Corin Teale"],
    perDay: [1, 0, 0],
    people: 48,
    mobiles: [860, 905],
    about: null,
  },
  {
    slug: "tansy-chimney-stove",
    name: "Tansy Chimney & Stove",
    trade: "stove",
    colour: "#5B3A29",
    senderEmail: "office@tansystove.example",
    textNumber: "+447700900993",
    postalAddress: "Tansy Chimney & Stove, 9 Tarry Lane, Merrow Bay",
    branches: [{ name: "Tarry Lane", address: "9 Tarry Lane, Merrow Bay", place: "tansy-chimney-stove" }],
    services: [
      { name: "Chimney sweep", share: 70 },
      { name: "Stove service", share: 30 },
    ],
    team: ["Wilf Tansy", "Ada Crane"],
    perDay: [3, 1, 0],
    people: 74,
    mobiles: [906, 975],
    about: null,
  },
];

export const GIVEN = [
  "Odette",
  "Jun",
  "Rosalind",
  "Ferris",
  "Corin",
  "Maren",
  "Tobias",
  "Ines",
  "Callum",
  "Priya",
  "Edwin",
  "Saskia",
  "Bram",
  "Lotte",
  "Hamish",
  "Noor",
  "Agnes",
  "Dylan",
  "Freya",
  "Malik",
  "Greta",
  "Owen",
  "Tilda",
  "Rafe",
  "Simone",
  "Arlo",
  "Beatrix",
  "Kofi",
  "Elin",
  "Jasper",
  "Marta",
  "Felix",
  "Harriet",
  "Idris",
  "Juliet",
  "Kit",
  "Leonie",
  "Mungo",
  "Nadia",
  "Oskar",
  "Petra",
  "Quentin",
  "Rhona",
  "Stefan",
  "Thea",
  "Ulric",
  "Verity",
  "Wilma",
  "Yusuf",
  "Zelda",
  "Amara",
  "Basil",
  "Cleo",
  "Dorian",
  "Esme",
  "Fabian",
  "Ginevra",
  "Hugo",
  "Imogen",
  "Joss",
];
export const FAMILY = [
  "Marsh",
  "Albrecht",
  "Pike",
  "Oakley",
  "Thorne",
  "Bellamy",
  "Crane",
  "Dunmore",
  "Ellwood",
  "Farrow",
  "Garrick",
  "Holloway",
  "Ivers",
  "Jessop",
  "Kestrel",
  "Lambourne",
  "Merriman",
  "Northcott",
  "Okafor",
  "Penrose",
  "Quayle",
  "Rookwood",
  "Sandoval",
  "Tregarth",
  "Underhill",
  "Varga",
  "Whitlock",
  "Yarrow",
  "Ashdown",
  "Birkett",
  "Calloway",
  "Dearing",
  "Eastman",
  "Fairley",
  "Goddard",
  "Hathersage",
  "Inglis",
  "Jarvis",
  "Kirkbride",
  "Lindqvist",
  "Mottram",
  "Nairn",
  "Orchard",
  "Pemberton",
  "Rasmussen",
  "Sharples",
  "Tolliver",
  "Vance",
  "Wetherby",
  "Zeller",
];
export const MAIL_DOMAINS = [
  "post.example",
  "post.example",
  "post.example",
  "harbourmail.example",
  "harbourmail.example",
  "tidewater.test",
  "inkwell.test",
];
/** Mail to this domain always comes back. */
export const LAPSED_DOMAIN = "lapsed.test";
