import type { ReactNode } from "react";

/** The look of every page that needs no sign-in: plain HTML, one font, no framework. */

export const STYLE = `
@font-face{font-family:Hanken;src:url(/fonts/hanken.woff2) format("woff2");font-weight:100 900;font-display:swap}
*{box-sizing:border-box}
html{-webkit-text-size-adjust:100%}
body{margin:0;background:#F5F6F1;color:#221A2C;font:17px/1.5 Hanken,system-ui,sans-serif}
main{max-width:30rem;margin:0 auto;padding:28px 20px 48px}
header{display:flex;align-items:center;gap:12px;margin-bottom:28px;font-weight:650}
.mark{display:grid;place-items:center;width:44px;height:44px;border-radius:12px;background:var(--own);color:#fff;font-size:20px;font-weight:700}
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
.main{background:var(--own);border-color:var(--own);color:#fff}
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
section{border-top:1px solid #DADCD3;padding-top:22px;margin-top:26px}
section:first-of-type{border:0;padding-top:0;margin-top:18px}
h2{font-size:19px;margin:0 0 6px}
.stars{color:#A86A12;letter-spacing:2px;font-size:22px}
.wrong{background:#F9E1DC;border-radius:10px;padding:10px 14px;color:#8A2413}
.quiet{margin-top:28px;font-size:14px;color:#5A5364}
.quiet a{color:#5A5364}
blockquote{margin:0 0 16px;padding-left:14px;border-left:3px solid var(--own);white-space:pre-wrap;overflow-wrap:anywhere}
`;

/** Reloads the page left behind once its visitor comes back from a review site, so that it shows the thanks. */
export const SCRIPT = `addEventListener("submit",e=>{if(e.target.dataset.leaves!==undefined)addEventListener("visibilitychange",()=>document.visibilityState==="visible"&&location.reload(),{once:true})});`;

type FrameProps = {
  title: string;
  business: string;
  branch?: string;
  colour: string;
  children: ReactNode;
  /** Looks again by itself after two seconds. */
  refresh?: boolean;
  /** Whether people come back to it from a review site. */
  returns?: boolean;
};

/** The frame around every page a customer or a client's staff sees without signing in. */
export function CustomerPage({
  title,
  business,
  branch,
  colour,
  children,
  refresh = false,
  returns = true,
}: FrameProps) {
  return (
    <html lang="en">
      {/* biome-ignore lint/style/noHeadElement: this page is served without the framework */}
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="robots" content="noindex" />
        {refresh ? <meta httpEquiv="refresh" content="2" /> : null}
        <title>{title}</title>
        <style
          dangerouslySetInnerHTML={{
            __html: `:root{--own:${/^#[0-9a-f]{6}$/i.test(colour) ? colour : "#6A2156"}}${STYLE}`,
          }}
        />
      </head>
      <body>
        <main>
          <header>
            <span className="mark" aria-hidden="true">
              {business.slice(0, 1)}
            </span>
            <span>
              {business}
              {branch ? <span className="where">{branch}</span> : null}
            </span>
          </header>
          {children}
        </main>
        {returns ? <script dangerouslySetInnerHTML={{ __html: SCRIPT }} /> : null}
      </body>
    </html>
  );
}
