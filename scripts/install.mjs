// Installs what a fresh Debian machine lacks: npm packages, PostgreSQL and, with "--browser", Chromium.
// Plain JavaScript, since nothing else is there yet when it runs.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const run = (command, args, options = {}) =>
  execFileSync(command, args, { cwd: root, stdio: ["ignore", "inherit", "inherit"], ...options });

const lock = createHash("sha256")
  .update(readFileSync(join(root, "package-lock.json")))
  .digest("hex");
const mark = join(root, "node_modules", ".estima-lock");
if (!existsSync(mark) || readFileSync(mark, "utf8") !== lock) {
  console.log("Installing npm packages ...");
  run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  writeFileSync(mark, lock);
}

const hasPostgres = () =>
  existsSync("/usr/lib/postgresql") &&
  readdirSync("/usr/lib/postgresql").some((version) => existsSync(`/usr/lib/postgresql/${version}/bin/initdb`));
const hasBrowser = () => existsSync("/usr/bin/chromium");
const wanted = [];
if (!process.env.DATABASE_URL && !hasPostgres()) wanted.push("postgresql");
if (process.argv.includes("--browser") && !hasBrowser()) wanted.push("chromium", "fonts-dejavu-core");
if (wanted.length > 0) {
  console.log(`Installing Debian packages: ${wanted.join(", ")} ...`);
  const asRoot = process.getuid?.() === 0 ? [] : ["sudo"];
  const apt = (args) => {
    const [command, ...rest] = [...asRoot, "apt-get", ...args];
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
  };
  try {
    apt(["update", "-qq"]);
    apt(["install", "-y", "-qq", "--no-install-recommends", ...wanted]);
  } catch {
    console.error(
      `Could not install ${wanted.join(", ")}. Install them with your system's package manager and run this again.`,
    );
    process.exit(1);
  }
}

// The fonts of the customers' pages are served by their own addresses, outside the framework's bundle: single weights,
// which are lighter than variable fonts, with letters beyond Western Europe in files of their own.
mkdirSync(join(root, "public/fonts"), { recursive: true });
const fonts = { hanken: "hanken-grotesk", bricolage: "bricolage-grotesque", newsreader: "newsreader" };
for (const [name, font] of Object.entries(fonts))
  for (const file of ["latin-400", "latin-ext-400", "latin-600", "latin-ext-600"])
    copyFileSync(
      join(root, `node_modules/@fontsource/${font}/files/${font}-${file}-normal.woff2`),
      join(root, `public/fonts/${name}-${file}.woff2`),
    );
