import { createServer } from "node:http";
import pg from "pg";

/**
 * The plainest server of pages, in a process of its own as the web server is: looks the link up in the database, then
 * sends as many bytes as it is told. Arguments: its port, the database's address, and the headers of each page as JSON.
 */
const [port, databaseUrl, headersJson] = process.argv.slice(2);
const headers = JSON.parse(headersJson) as Record<string, string>;
const pool = new pg.Pool({ connectionString: databaseUrl, max: 2 });
const pages = new Map<number, string>();
const server = createServer(async (request, response) => {
  const [path, bytes] = (request.url ?? "").split("?bytes=");
  const size = Number(bytes ?? 0);
  const page = pages.get(size) ?? "x".repeat(size);
  pages.set(size, page);
  await pool.query("select id from asks where token = $1", [path.slice("/a/".length)]);
  response.writeHead(200, headers).end(page);
});
server.listen(Number(port), "127.0.0.1");
process.on("SIGTERM", () => process.exit(0));
