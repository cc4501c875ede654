import { BROWSER } from "./browser";

/**
 * A customer's page in somebody's hand: its fields and buttons as a browser without script has them, and what the script
 * of the page adds. It knows HTML as our pages are written, and no other.
 */

const ENTITIES: Record<string, string> = { amp: "&", lt: "<", gt: ">", quot: '"', "#x27": "'" };

const plain = (html: string) => html.replace(/&(amp|lt|gt|quot|#x27);/g, (_, name: string) => ENTITIES[name]);

const attributesOf = (tag: string): Record<string, string> =>
  Object.fromEntries(
    [...tag.matchAll(/([\w-]+)(?:="([^"]*)")?/g)].map(([, name, value]) => [name.toLowerCase(), plain(value ?? "")]),
  );

export type Button = { says: string; to: string; name?: string; value?: string };

export class CustomerPage {
  html = "";
  status = 0;
  /** What is typed, by the name of the field. */
  private typed = new Map<string, string>();
  private ticked = new Map<string, boolean>();
  private cookie = "";

  constructor(
    readonly base: string,
    private readonly headers: Record<string, string> = {},
  ) {}

  async open(path = ""): Promise<this> {
    return this.follow(await this.request(`${this.base}${path}`, {}));
  }

  private request(address: string, init: RequestInit): Promise<Response> {
    const headers = { ...BROWSER, ...this.headers, ...(this.cookie ? { cookie: this.cookie } : {}) };
    return fetch(address, { ...init, headers, redirect: "manual" });
  }

  private async follow(response: Response): Promise<this> {
    this.cookie = response.headers.get("set-cookie")?.split(";")[0] ?? this.cookie;
    const location = response.headers.get("location");
    // Somewhere else is another tab: this page stays as it is.
    if (location && !new URL(location, this.base).href.startsWith(new URL(this.base).origin)) return this;
    if (location) return this.follow(await this.request(new URL(location, this.base).href, {}));
    if (response.status === 204) return this;
    this.html = await response.text();
    this.status = response.status;
    this.typed.clear();
    this.ticked.clear();
    return this;
  }

  /** All that one reads, without the marks of the page. */
  get text(): string {
    const body = this.html.slice(this.html.indexOf("<body>")).replace(/<textarea[^>]*>[^<]*<\/textarea>/g, " ");
    return plain(body.replace(/<[^>]+>/g, " ").replace(/\s+/g, " "));
  }

  /** The fields to write in, with what is in them. */
  get fields(): Record<string, string> {
    return Object.fromEntries(
      [...this.html.matchAll(/<textarea([^>]*)>([^<]*)<\/textarea>/g)].map(([, tag, value]) => {
        const { name } = attributesOf(tag);
        return [name, this.typed.get(name) ?? plain(value)];
      }),
    );
  }

  get asksToShow(): boolean {
    return this.html.includes('name="show"');
  }

  type(name: string, text: string): void {
    if (!(name in this.fields)) throw new Error(`no field ${name}`);
    this.typed.set(name, text);
  }

  tick(name: string, isOn: boolean): void {
    this.ticked.set(name, isOn);
  }

  get buttons(): Button[] {
    const form = attributesOf(/<form([^>]*)>/.exec(this.html)?.[1] ?? "").action ?? "";
    return [...this.html.matchAll(/<button([^>]*)>(.*?)<\/button>/gs)]
      .map(([, tag, inside]) => ({ attributes: attributesOf(tag), inside }))
      .filter(({ attributes }) => !("hidden" in attributes))
      .map(({ attributes: { formaction, name, value, "aria-label": label }, inside }) => ({
        says: label ?? plain(inside.replace(/<[^>]+>/g, "")),
        to: (formaction ?? form).replace(/^.*?\/[as]\/[^/]+\//, ""),
        ...(name ? { name, value } : {}),
      }));
  }

  /** What the one form of the page would send: of the form that a button is in where there are several. */
  private get form(): URLSearchParams {
    const inputs = [...this.html.matchAll(/<input([^>]*)>/g)].map(([, tag]) => attributesOf(tag));
    const hidden = inputs.filter(({ type }) => type === "hidden").map(({ name, value }) => [name, value ?? ""]);
    const ticks = inputs
      .filter((one) => one.type === "checkbox" && (this.ticked.get(one.name) ?? "checked" in one))
      .map(({ name, value }) => [name, value]);
    const texts = inputs
      .filter((one) => one.name && !one.type && this.typed.has(one.name))
      .map(({ name }) => [name, this.typed.get(name) ?? ""]);
    return new URLSearchParams([...hidden, ...ticks, ...texts, ...Object.entries(this.fields)]);
  }

  /** Writes into a field of one line. */
  fill(name: string, text: string): void {
    this.typed.set(name, text);
  }

  /** Presses a button: its form is sent, and the page that comes of it is opened. */
  async press(which: Partial<Button>): Promise<this> {
    const button = this.buttons.find((one) =>
      Object.entries(which).every(([key, value]) => one[key as keyof Button] === value),
    );
    if (!button) throw new Error(`no button ${JSON.stringify(which)} among ${JSON.stringify(this.buttons)}`);
    const form = this.form;
    if (button.name) form.append(button.name, button.value ?? "");
    return this.follow(await this.request(`${this.base}/${button.to}`, { method: "POST", body: form }));
  }

  /** What the script of the page sends while someone types, and when they leave. */
  async beacon(): Promise<void> {
    const keeps = attributesOf(/<form([^>]*data-keeps[^>]*)>/.exec(this.html)?.[1] ?? "")["data-keeps"];
    if (!keeps) return;
    const form = this.form;
    form.append("as", "draft");
    await this.request(new URL(keeps, this.base).href, { method: "POST", body: form });
  }
}
