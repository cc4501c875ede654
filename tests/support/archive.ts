import { crc32, deflateRawSync } from "node:zlib";

/** Archives (ZIP) written byte by byte, so that tests can make ones whose directory lies. */

export type Part = {
  name: string;
  text: string | Buffer /** What the directory says that the part unpacks to, instead of the truth. */;
  claims?: number;
};

/** The bytes of an archive with these parts. */
export function archive(parts: readonly Part[]): Uint8Array {
  const files: Buffer[] = [];
  const directory: Buffer[] = [];
  let offset = 0;
  for (const { name, text, claims } of parts) {
    const raw = Buffer.from(text as string);
    const packed = deflateRawSync(raw, { level: 9 });
    const label = Buffer.from(name);
    const shared = Buffer.alloc(26);
    shared.writeUInt16LE(20, 0);
    shared.writeUInt16LE(8, 4);
    shared.writeUInt32LE(crc32(raw), 10);
    shared.writeUInt32LE(packed.length, 14);
    shared.writeUInt32LE(claims ?? raw.length, 18);
    shared.writeUInt16LE(label.length, 22);
    const file = Buffer.concat([Buffer.from([0x50, 0x4b, 3, 4]), shared, label, packed]);
    const place = Buffer.alloc(14);
    place.writeUInt32LE(offset, 10);
    directory.push(Buffer.concat([Buffer.from([0x50, 0x4b, 1, 2, 20, 0]), shared, place, label]));
    files.push(file);
    offset += file.length;
  }
  const list = Buffer.concat(directory);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(parts.length, 8);
  end.writeUInt16LE(parts.length, 10);
  end.writeUInt32LE(list.length, 12);
  end.writeUInt32LE(offset, 16);
  return new Uint8Array(Buffer.concat([...files, list, end]));
}

type Sheet = { name: string; rows: string; state?: string; claims?: number; after?: string };

/** A workbook of sheets whose rows are given as XML; `prefix` is the prefix of every element's name. */
export function workbookOf(
  sheets: readonly Sheet[],
  { prefix = "", shared, styles }: { prefix?: string; shared?: string; styles?: string } = {},
): Uint8Array {
  const p = prefix ? `${prefix}:` : "";
  const main = `xmlns${prefix ? `:${prefix}` : ""}="http://schemas.openxmlformats.org/spreadsheetml/2006/main"`;
  const places = 'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"';
  return archive([
    {
      name: "xl/workbook.xml",
      text: `<${p}workbook ${main} ${places}><${p}sheets>${sheets
        .map(
          ({ name, state }, index) =>
            `<${p}sheet name="${name}" sheetId="${index + 1}"${state ? ` state="${state}"` : ""} r:id="rId${index + 1}"/>`,
        )
        .join("")}</${p}sheets></${p}workbook>`,
    },
    {
      name: "xl/_rels/workbook.xml.rels",
      text: `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${sheets
        .map(
          (_, index) => `<Relationship Id="rId${index + 1}" Type="sheet" Target="worksheets/sheet${index + 1}.xml"/>`,
        )
        .join("")}</Relationships>`,
    },
    ...(shared ? [{ name: "xl/sharedStrings.xml", text: shared }] : []),
    ...(styles ? [{ name: "xl/styles.xml", text: styles }] : []),
    ...sheets.map(({ rows, claims, after = "" }, index) => ({
      name: `xl/worksheets/sheet${index + 1}.xml`,
      text: `<${p}worksheet ${main}><${p}sheetData>${rows}</${p}sheetData>${after}</${p}worksheet>`,
      claims,
    })),
  ]);
}

/** Rows of texts as a sheet's XML. */
export function sheetRows(rows: readonly (readonly string[])[], prefix = ""): string {
  const p = prefix ? `${prefix}:` : "";
  return rows
    .map(
      (cells) =>
        `<${p}row>${cells.map((cell) => `<${p}c t="inlineStr"><${p}is><${p}t>${cell}</${p}t></${p}is></${p}c>`).join("")}</${p}row>`,
    )
    .join("");
}
