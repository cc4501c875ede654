import { html, raw } from "hono/html";
import type { HtmlEscapedString } from "hono/utils/html";

type Html = HtmlEscapedString | Promise<HtmlEscapedString>;

const STYLE = `
body{margin:0;background:#EEF1F4;color:#1B2430;font:16px/1.5 system-ui,sans-serif}
main{max-width:46rem;margin:0 auto;padding:24px 20px 60px}
nav{background:#1B2430;color:#DDE4EC;padding:12px 20px;display:flex;gap:18px;flex-wrap:wrap;align-items:baseline}
nav a{color:#fff}nav span{margin-left:auto}
h1{font-size:26px;margin:18px 0 8px}h2{font-size:18px;margin:26px 0 8px}
a{color:#1D4F91}
article,form.card,.bubble{background:#fff;border:1px solid #CDD5DE;border-radius:10px;padding:14px 18px;margin:12px 0;overflow-wrap:anywhere}
table{border-collapse:collapse;width:100%;background:#fff}td,th{text-align:left;padding:8px 12px;border-bottom:1px solid #DDE4EC;vertical-align:top}
button,input,textarea,select{font:inherit;padding:8px 14px;border:1px solid #8391A1;border-radius:8px;background:#fff;color:inherit}
button{background:#1D4F91;border-color:#1D4F91;color:#fff;cursor:pointer;min-height:44px}
textarea{width:100%;box-sizing:border-box;min-height:90px}
.bubble.out{margin-left:18%;background:#DCE9DA}.bubble.in{margin-right:18%}
small{color:#4D5B6B}blockquote{margin:8px 0 0;padding-left:12px;border-left:3px solid #8391A1;white-space:pre-wrap}
iframe{width:100%;height:560px;border:1px solid #CDD5DE;border-radius:10px;background:#fff}
`;

/** The plain frame of all pages in town. */
export function townPage(title: string, townUrl: string, clock: string, body: Html): Html {
  return html`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${title}</title><style>${raw(STYLE)}</style></head>
<body><nav><a href="${townUrl}">Merrow Bay, simulated</a><span>${clock}</span></nav><main><h1>${title}</h1>${body}</main></body></html>`;
}

/** An instant as the town writes it, in its own zone. */
export function townTime(at: number): string {
  return new Intl.DateTimeFormat("en-GB", {
    timeZone: "Europe/London",
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  }).format(at);
}
