import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { PERMISSIONS, type Permission } from "@/core/access/permissions";

/** Every page and every address of a client and of an agency asks for a permission of its place before anything else. */
describe("pages", () => {
  const APP = join(import.meta.dirname, "../../../src/app");

  /** What the pages of a place may ask for. */
  const OF_PLACE: Record<string, Permission[]> = {
    today: ["see today"],
    people: ["see people", "edit people", "import lists", "export people"],
    asking: ["see asking"],
    heard: ["see heard"],
    desk: ["ask"],
    "set-up": ["set up", "edit people"],
  };

  function filesIn(folder: string): string[] {
    return readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
      entry.isDirectory()
        ? filesIn(join(folder, entry.name))
        : /^(?:page\.tsx|route\.tsx?)$/.test(entry.name)
          ? [join(folder, entry.name)]
          : [],
    );
  }

  /** What a file asks for first, within each function that answers a request. */
  function asksFor(file: string): (string | null)[] {
    const text = readFileSync(file, "utf8");
    const answering = text.split(/\nexport (?:default )?async function /).slice(1);
    return answering.map(
      (body) =>
        /require(?:Access|Agency)\([^;]*?"([^"]+)"(?:, "whole (?:client|agency)")?\)/.exec(body.slice(0, 600))?.[1] ??
        null,
    );
  }

  test.each(filesIn(join(APP, "c/[client]")).map((file) => relative(APP, file)))(
    "%s asks for what its place needs",
    (file) => {
      const place = file.split("/")[2];
      const asked = asksFor(join(APP, file)).filter((one) => one !== "generateMetadata");
      expect(asked.length).toBeGreaterThan(0);
      for (const permission of asked) {
        expect(PERMISSIONS).toContain(permission);
        expect(OF_PLACE[place]).toContain(permission);
      }
    },
  );

  test("pages of an agency ask for a seat there, and all but its clients for a permission", () => {
    for (const file of filesIn(join(APP, "agency"))) {
      const text = readFileSync(file, "utf8");
      expect([file, text.includes("await requireAgency(")]).toEqual([file, true]);
      if (!file.endsWith("[agency]/page.tsx"))
        expect(asksFor(file)[0]).toMatch(/^(?:manage people|start clients|change words)$/);
    }
  });

  test("every page of the application gets its Content-Security-Policy", async () => {
    const { config } = await import("@/proxy");
    const covers = (path: string) =>
      config.matcher.some((each) =>
        each.endsWith("/:path*") ? path === each.slice(0, -7) || path.startsWith(each.slice(0, -6)) : path === each,
      );
    const pages = filesIn(APP)
      .map((file) => relative(APP, file))
      .filter((file) => file.endsWith("page.tsx"))
      .map((file) => `/${file.slice(0, -"page.tsx".length).replace(/\/$/, "")}`);
    expect(pages.length).toBeGreaterThan(35);
    expect(pages.filter((path) => !covers(path))).toEqual([]);
  });
});
