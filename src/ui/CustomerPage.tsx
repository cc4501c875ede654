import type { ReactNode } from "react";
import { inkOn } from "@/core/words/contrast";
import { type Logo, sizeOf } from "@/core/words/logo";
import type { Typeface } from "@/core/words/look";

/** The look of every page that needs no sign-in: plain HTML, one font, no framework. */

export const STYLE = `
*{box-sizing:border-box}
html{-webkit-text-size-adjust:100%}
body{margin:0;background:#F5F6F1;color:#221A2C;font:17px/1.5 Own,system-ui,sans-serif}
main{max-width:30rem;margin:0 auto;padding:28px 20px 48px}
header{display:flex;align-items:center;gap:12px;margin-bottom:28px;font-weight:650}
.mark{display:grid;place-items:center;width:44px;height:44px;border-radius:12px;background:var(--own);color:var(--on);font-size:20px;font-weight:700}
.where{display:block;font-weight:400;font-size:15px;color:#5A5364}
h1{font-size:28px;line-height:1.2;letter-spacing:-.01em;margin:0 0 10px;text-wrap:balance}
p{margin:0 0 16px}
a{color:inherit}
.soft{color:#5A5364}
.rate{display:grid;grid-template-columns:repeat(5,1fr);gap:8px;margin:22px 0 6px}
button,.button{font:inherit;font-weight:600;min-height:52px;border-radius:12px;border:1px solid #B9BCB0;background:#fff;color:#221A2C;cursor:pointer;width:100%;padding:10px 16px;text-align:center;text-decoration:none;display:block}
button:hover{border-color:var(--own)}
button:focus-visible,a:focus-visible,textarea:focus-visible{outline:3px solid var(--own);outline-offset:2px}
.rate button{min-height:64px;padding:6px 0;font-size:26px;line-height:1;color:#A86A12}
.rate button span{display:block;font-size:14px;color:#5A5364;margin-top:4px;font-weight:500}
.rate button.chosen{background:#F9F0DC;border:2px solid #A86A12}
.ends{display:flex;justify-content:space-between;font-size:14px;color:#5A5364;margin-bottom:20px}
.main{background:var(--own);border-color:var(--own);color:var(--on)}
.logo{display:block;max-height:52px;max-width:180px}
.wide{display:block;width:100%;height:auto;border-radius:12px;margin:-12px 0 24px}
.who{width:44px;height:44px;border-radius:22px;object-fit:cover;margin-left:auto}
.main:hover{filter:brightness(1.12)}
.sites{display:grid;gap:10px;margin:18px 0}
.sites button{display:flex;justify-content:space-between;align-items:center;text-align:left}
.sites small{font-weight:400;opacity:.85}
label{display:block;font-weight:600;margin-bottom:6px}
input:not([type=hidden]),select{font:inherit;width:100%;min-height:52px;border:1px solid #B9BCB0;border-radius:12px;padding:10px 14px;background:#fff;color:inherit;margin-bottom:14px}
input:focus-visible,select:focus-visible{outline:3px solid var(--own);outline-offset:2px}
ul{padding-left:20px}
.good{background:#DDEEE2;border-radius:10px;padding:10px 14px;color:#174A2E}
textarea{font:inherit;width:100%;min-height:132px;border:1px solid #B9BCB0;border-radius:12px;padding:12px 14px;background:#fff;color:inherit;margin-bottom:12px}
::file-selector-button{font:inherit;border:1px solid #B9BCB0;border-radius:9px;padding:6px 12px;margin-right:10px;background:transparent;color:inherit}
section{border-top:1px solid #DADCD3;padding-top:22px;margin-top:26px}
section:first-of-type{border:0;padding-top:0;margin-top:18px}
h2{font-size:19px;margin:0 0 6px}
.stars{color:#A86A12;letter-spacing:2px;font-size:22px}
.wrong{background:#F9E1DC;border-radius:10px;padding:10px 14px;color:#8A2413}
.trap{position:absolute;left:-9999px}
.quiet{margin-top:28px;font-size:14px;color:#5A5364}
.quiet a,.quiet .link{color:#5A5364}
button.link{display:inline;width:auto;min-height:24px;padding:0;border:0;background:none;color:inherit;font-weight:inherit;text-decoration:underline;text-align:left}
.five{display:grid;grid-template-columns:repeat(5,1fr) auto;gap:6px;margin:6px 0 16px}
.ten{display:grid;grid-template-columns:repeat(auto-fit,minmax(44px,1fr));gap:6px;margin:10px 0 6px}
.three{display:grid;grid-template-columns:repeat(3,1fr);gap:8px;margin:10px 0 16px}
.five button,.ten button,.three button{min-height:46px;padding:4px 6px}
.five .na{font-weight:400;font-size:14px;padding:4px 10px}
.chosen,.five button.chosen,.ten button.chosen,.three button.chosen{background:var(--own);border-color:var(--own);color:var(--on)}
.check{display:flex;gap:10px;align-items:flex-start;font-weight:400;margin:0 0 16px}
.check input{width:24px;height:24px;min-height:0;flex:none;margin:0}
.face{width:34px;height:34px;display:block;margin:0 auto;fill:none;stroke:currentColor;stroke-width:2;stroke-linecap:round}
fieldset{border:0;padding:0;margin:0 0 8px}
legend{font-weight:600;padding:0;margin-bottom:2px}
.languages{display:flex;flex-wrap:wrap;gap:4px 14px;margin:0 0 10px}
.sample{background:#F0E3EC;border-radius:10px;padding:10px 14px;color:#4A173B}
[hidden]{display:none}
blockquote{margin:0 0 16px;padding-left:14px;border-left:3px solid var(--own);white-space:pre-wrap;overflow-wrap:anywhere}
@media (prefers-color-scheme:dark){
body{background:#1B1820;color:#F2EFEA}
.soft,.quiet,.quiet a,.quiet .link,.where,.ends,.rate button span{color:#C3BCCB}
button,.button,input:not([type=hidden]),select,textarea{background:#28232F;color:#F2EFEA;border-color:#6B6475}
button.link{background:none;color:inherit}
.rate button,.stars{color:#F0B95A}
.rate button.chosen{background:#4A3A17;border-color:#F0B95A}
section{border-color:#3B3543}
.main,.chosen,.five button.chosen,.ten button.chosen,.three button.chosen{background:var(--own);border-color:#F2EFEA;color:var(--on)}
.good{background:#1F3B2A;color:#D4F0DE}.wrong{background:#4A1D16;color:#FADCD5}.sample{background:#43203A;color:#F6E3F0}
.mark{outline:1px solid #6B6475}
}
@media print{body{background:#fff;color:#000}button,.quiet,.languages,textarea,input{display:none!important}}
`;

/** The typeface of a page: its plain and its bold weight, letters beyond Western Europe in files of their own. */
function fontFaces(typeface: Typeface): string {
  if (typeface === "system") return "";
  const face = (file: string, weight: string, range: string) =>
    `@font-face{font-family:Own;src:url(/fonts/${typeface}-${file}.woff2) format("woff2");font-weight:${weight};font-display:swap;unicode-range:${range}}`;
  const [west, more] = ["U+0000-00FF,U+2000-206F,U+20AC,U+2605", "U+0100-024F,U+1E00-1EFF"];
  // The serif and the one with character are heavier files: one weight of them, and the browser thickens it.
  if (typeface !== "hanken") return face("latin-400", "100 900", west) + face("latin-ext-400", "100 900", more);
  return (
    face("latin-400", "100 500", west) +
    face("latin-ext-400", "100 500", more) +
    face("latin-600", "501 900", west) +
    face("latin-ext-600", "501 900", more)
  );
}

/**
 * Reloads the page left behind once its visitor comes back from a review site, so that it shows the thanks. Keeps what
 * is being typed as a draft every few seconds, and when they leave the page. Copies their words where a button says so.
 */
export const SCRIPT = `let sent=0;addEventListener("pageshow",()=>sent=0);addEventListener("submit",e=>{if(e.submitter?.dataset.leaves!==undefined)addEventListener("visibilitychange",()=>document.visibilityState==="visible"&&location.reload(),{once:true});else sent=1});for(const f of document.querySelectorAll("[data-keeps]")){const v=()=>new URLSearchParams([...f.querySelectorAll("textarea,[name^=was-],[name=asked-show],[name=show]:checked")].map(t=>[t.name,t.value]));let k=v()+"";const s=()=>{const n=v();if(sent||n+""===k)return;k=n+"";n.append("as","draft");navigator.sendBeacon(f.dataset.keeps,n)};setInterval(s,4000);addEventListener("visibilitychange",()=>document.visibilityState==="hidden"&&s())}for(const b of document.querySelectorAll("[data-copies]")){b.hidden=false;b.onclick=async()=>{await navigator.clipboard.writeText(document.getElementById("mine").textContent);b.textContent=b.dataset.copies}}`;

type FrameProps = {
  title: string;
  business: string;
  branch?: string;
  colour: string;
  /** The business's own logo, in place of its first letter. */
  logo?: Logo | null;
  /** A wide picture above what it says, and the face of who asks. */
  header?: Logo | null;
  portrait?: Logo | null;
  children: ReactNode;
  /** Looks again by itself after two seconds. */
  refresh?: boolean;
  /** Whether its script runs: people come back to it from a review site, or type on it. */
  returns?: boolean;
  /** BCP 47. */
  language?: string;
  typeface?: Typeface;
  /** Whether search engines may list it. */
  isListed?: boolean;
  /** Beside the rest of the head: a canonical address, data for search engines. */
  head?: ReactNode;
};

/** The frame around every page a customer or a client's staff sees without signing in. */
export function CustomerPage({
  title,
  business,
  branch,
  colour,
  logo = null,
  header = null,
  portrait = null,
  children,
  refresh = false,
  returns = true,
  language = "en",
  typeface = "hanken",
  isListed = false,
  head = null,
}: FrameProps) {
  const own = /^#[0-9a-f]{6}$/i.test(colour) ? colour : "#6A2156";
  return (
    <html lang={language}>
      {/* biome-ignore lint/style/noHeadElement: this page is served without the framework */}
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        {isListed ? null : <meta name="robots" content="noindex" />}
        <meta name="color-scheme" content="light dark" />
        {refresh ? <meta httpEquiv="refresh" content="2" /> : null}
        <title>{title}</title>
        {head}
        <style
          dangerouslySetInnerHTML={{
            __html: `${fontFaces(typeface)}:root{--own:${own};--on:${inkOn(own)}}${STYLE}`,
          }}
        />
      </head>
      <body>
        <main>
          <header>
            {logo ? (
              // biome-ignore lint/performance/noImgElement: this page is served without the framework
              <img className="logo" src={`/images/${logo.id}.png`} alt={business} {...sizeOf(logo)} />
            ) : (
              <span className="mark" aria-hidden="true">
                {business.slice(0, 1)}
              </span>
            )}
            <span>
              {logo ? null : business}
              {branch ? <span className="where">{branch}</span> : null}
            </span>
            {portrait ? (
              // biome-ignore lint/performance/noImgElement: this page is served without the framework
              <img className="who" src={`/images/${portrait.id}.jpg`} alt="" {...sizeOf(portrait)} />
            ) : null}
          </header>
          {header ? (
            // biome-ignore lint/performance/noImgElement: this page is served without the framework
            <img className="wide" src={`/images/${header.id}.jpg`} alt="" {...sizeOf(header)} />
          ) : null}
          {children}
        </main>
        {returns ? <script dangerouslySetInnerHTML={{ __html: SCRIPT }} /> : null}
      </body>
    </html>
  );
}
