import fc from "fast-check";
import { sheetRow, tableOf } from "./table";

test("rows are numbered as their spreadsheet numbers them, whatever is empty above or between", () => {
  const cell = fc.constantFrom("Odette", "Tom", "");
  fc.assert(
    fc.property(fc.array(cell, { maxLength: 30 }), fc.nat(3), (names, above) => {
      const cells = [
        ...Array.from({ length: above }, () => [""]),
        ["Name", "Email"],
        ...names.map((name, n) => (name ? [name, `n${n}@post.example`] : [""])),
      ];
      const table = tableOf(cells);
      for (const [index, row] of table.rows.entries()) expect(cells[sheetRow(table, index + 1) - 1]?.[1]).toBe(row[1]);
    }),
  );
  // Lists that were read before the places were kept.
  expect(sheetRow({ hasHeader: true, skipped: 2 }, 5)).toBe(8);
  expect(sheetRow(null, 5)).toBe(5);
});
