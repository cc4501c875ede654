import fc from "fast-check";
import { looksLikeCards, tableOfCards } from "./vcards";

const card = (...lines: string[]) => `BEGIN:VCARD\r\n${lines.join("\r\n")}\r\nEND:VCARD\r\n`;
const read = (text: string) => {
  const { headers, rows } = tableOfCards(text);
  return rows.map((row) => Object.fromEntries(row.flatMap((cell, at) => (cell ? [[headers[at], cell]] : []))));
};

test("a phone's contacts of any version: the mobile and the preferred mailbox first", () => {
  const text =
    card(
      "VERSION:2.1",
      "N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=A1rquez;In=C3=A9s;;;",
      "FN:Ines",
      "TEL;HOME:020 7946 0000",
      "TEL;CELL;PREF:07700 900123",
      "NOTE;ENCODING=QUOTED-PRINTABLE:Two lines=0D=0A=",
      "of them",
    ) +
    card(
      "VERSION:3.0",
      "N:Vance;Kofi;;Mr;",
      "item1.EMAIL;TYPE=INTERNET:old@post.example",
      "item2.EMAIL;TYPE=INTERNET,PREF:kofi@post.example",
      'ADR;LABEL="a: b";TYPE=HOME:;;1 Quay Street;Merrow Bay;;MB1;',
      "BDAY:1984-02-29T00:00:00Z",
      "CATEGORIES:VIP\\, gold,Regular",
    ) +
    card(
      "VERSION:4.0",
      "FN:Harbor Bakery",
      'TEL;VALUE=uri;TYPE="cell,voice":tel:+44-7700-900124;ext=5',
      "NOTE:It go",
      " es on",
    );
  expect(looksLikeCards(text)).toBe(true);
  expect(read(text)).toEqual([
    { "First name": "Inés", "Last name": "Márquez", Mobile: "07700 900123", Note: "Two lines\r\nof them" },
    {
      "First name": "Kofi",
      "Last name": "Vance",
      Email: "kofi@post.example",
      Address: "1 Quay Street, Merrow Bay, MB1",
      "Birth date": "1984-02-29",
      Tags: "VIP, gold, Regular",
    },
    { Name: "Harbor Bakery", Mobile: "+44-7700-900124", Note: "It goes on" },
  ]);
});

test("an address is nobody's name, and a birthday without a year no birth date", () => {
  expect(read(card("N:;;;;", "FN:ada@post.example", "EMAIL:ada@post.example", "BDAY:--0412"))).toEqual([
    { Email: "ada@post.example" },
  ]);
  expect(read(card("FN:+44 7700 900123", "TEL:+44 7700 900123"))).toEqual([{ Mobile: "+44 7700 900123" }]);
});

test("whatever stands in a file, each card is a row of as many cells, and nothing is thrown", () => {
  fc.assert(
    fc.property(
      fc.array(fc.stringMatching(/^[A-Z]{1,6}[;:=,.\\" \r\nA-Za-z0-9]{0,40}$/), { maxLength: 12 }),
      (lines) => {
        const { headers, rows } = tableOfCards(card(...lines) + card("FN:Ada"));
        expect(rows.at(-1)?.[0]).toBe("Ada");
        for (const row of rows) expect(row).toHaveLength(headers.length);
      },
    ),
  );
});
