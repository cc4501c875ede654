import { cookies } from "next/headers";
import { environment } from "./environment";
import { sameSecret, tagFor } from "./secrets";

/** A cookie that says something for a while (real time) and that nobody can make or change but this installation. */
export class SignedCookie {
  constructor(
    private readonly name: string,
    private readonly longest: number,
  ) {}

  /** Says these parts from the next page on; none holds a dot. */
  async set(...parts: string[]): Promise<void> {
    const content = [...parts, Date.now() + this.longest].join(".");
    (await cookies()).set(this.name, `${content}.${tagFor(this.name, content)}`, {
      httpOnly: true,
      sameSite: "lax",
      secure: environment().APP_URL.startsWith("https:"),
      path: "/",
      maxAge: this.longest / 1000,
    });
  }

  async end(): Promise<void> {
    (await cookies()).delete(this.name);
  }

  /** What it says, or null where it says nothing, was changed, or its time is over. */
  async read(): Promise<string[] | null> {
    const parts = (await cookies()).get(this.name)?.value.split(".") ?? [];
    const tag = parts.pop();
    const until = Number(parts.at(-1));
    if (!tag || !sameSecret(tag, tagFor(this.name, parts.join("."))) || !(until > Date.now())) return null;
    return parts.slice(0, -1);
  }
}
