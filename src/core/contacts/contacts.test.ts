import fc from "fast-check";
import { isOneSlip, normaliseEmail, suggestEmail } from "./email";
import { greetingName, naturalName, splitName } from "./name";
import { normalisePhone, sayPhone } from "./phone";

describe("phones", () => {
  test.each([
    ["07700 900123", "GB", "+447700900123", true],
    ["+44 (0)7700 900123", "GB", "+447700900123", true],
    ["0044 7700 900123", "GB", "+447700900123", true],
    ["447700900123.0", "GB", "+447700900123", true],
    ["0113 496 0123", "GB", "+441134960123", false],
    ["(202) 555-0143", "US", "+12025550143", true],
  ])("%s in %s", (typed, country, number, canText) =>
    expect(normalisePhone(typed, country)).toMatchObject({ number, canText }),
  );

  test("nonsense is no phone, and never throws", () => {
    for (const typed of ["", "123", "ask at the desk", "07700 90012", "07700 9001234567", "a@b.example"])
      expect(normalisePhone(typed, "GB")).toBeNull();
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), fc.string({ maxLength: 4 }), (typed, country) => {
        const phone = normalisePhone(typed, country);
        if (phone) expect(phone.number).toMatch(/^\+[1-9]\d{6,14}$/);
      }),
    );
  });

  test("what was normalised stays as it is", () => {
    const { number } = normalisePhone("07700 900123", "GB") ?? { number: "" };
    expect(normalisePhone(number, "US")?.number).toBe(number);
    expect(sayPhone(number)).toBe("+44 7700 900123");
  });
});

describe("emails", () => {
  test("are kept lower-cased, and only where mail could arrive", () => {
    expect(normaliseEmail(" Odette.Marsh@Post.Example ")).toBe("odette.marsh@post.example");
    expect(normaliseEmail("<odette@post.example>")).toBe("odette@post.example");
    for (const wrong of [
      "odette",
      "odette@",
      "@post.example",
      "a b@post.example",
      "a..b@post.example",
      "odette@post",
      "odette@post..example",
      "a@b@c.example",
      `${"x".repeat(65)}@post.example`,
    ])
      expect(normaliseEmail(wrong)).toBeNull();
  });

  test("slips against the client's own frequent domains are suggested", () => {
    const known = new Map([
      ["harbourmail.example", 300],
      ["post.example", 120],
      ["harbormail.example", 1],
    ]);
    expect(suggestEmail("o@harbuormail.example", known)).toBe("o@harbourmail.example");
    expect(suggestEmail("o@harbormail.example", known)).toBe("o@harbourmail.example");
    expect(suggestEmail("o@post.example", known)).toBeNull();
    expect(suggestEmail("o@inkwell.test", known)).toBeNull();
    expect([
      isOneSlip("abc", "acb"),
      isOneSlip("abc", "abcd"),
      isOneSlip("abc", "abd"),
      isOneSlip("abc", "bca"),
    ]).toEqual([true, true, true, false]);
  });
});

describe("names", () => {
  test.each([
    ["MARSH, ODETTE", "Odette", "Marsh"],
    ["mrs odette marsh", "Odette", "Marsh"],
    ["Dr. Jean-Luc van der Berg", "Jean-Luc", "van der Berg"],
    ["ANNE-MARIE O'NEILL", "Anne-Marie", "O'Neill"],
    ["MCKENZIE, IAN", "Ian", "McKenzie"],
    ["Cher", "Cher", ""],
    ["José  María  de la Cruz", "José María", "de la Cruz"],
  ])("%s", (typed, given, family) => expect(splitName(typed)).toEqual({ given, family }));

  test.each([
    ["Dña. Odette Marsh", "Odette"],
    ["Capt. Jun Oakley", "Jun"],
    ["Revd Ferris Vale", "Ferris"],
    ["Dott. Luca Ferro", "Luca"],
    ["Dott.ssa Lucia Ferro", "Lucia"],
    ["Pani Zofia Łęcka", "Zofia"],
    ["Dr. med. Hanna Voss", "Hanna"],
    ["Univ.-Prof. Dr. Hanna Voss", "Hanna"],
    ["M. Jean Quarrie", "Jean"],
    ["Herr K.", null],
    ["Sir", null],
    ["Guest", null],
    ["N/A", null],
    ["Unknown", null],
    ["Former Patient", null],
    ["Anonymous", null],
    ["Kundin", null],
    ["Harbour Lettings Ltd", null],
    ["Hafen Service GmbH", null],
    ["J.R. Marsh", null],
    ["12345", null],
    ["İBRAHİM AKSU", "İbrahim"],
    ["IJSBRAND VEEN", "IJsbrand"],
    ["ŁUCJA ŻAK", "Łucja"],
    ["o'neill marsh", "O'Neill"],
    ["Gen Marsh", "Gen"],
    ["Maj Lind", "Maj"],
  ])("%s is greeted as %p", (typed, greeted) => {
    const { given, family } = splitName(typed);
    expect(greetingName(given, family)).toBe(greeted);
  });

  test("nobody is greeted in capitals or by an initial", () => {
    expect([
      greetingName("ODETTE"),
      greetingName("o."),
      greetingName(""),
      greetingName(null),
      greetingName("Anne Marie"),
    ]).toEqual(["Odette", null, null, null, "Anne"]);
    expect(naturalName("McKenna")).toBe("McKenna");
  });
});
