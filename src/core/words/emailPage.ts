/** The HTML of an email: a single column of plain words that any mail program shows, with its plain-text twin. */

const escapeHtml = (text: string) =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");

export type EmailFrame = {
  business: string;
  colour: string;
  postalAddress: string;
  /**
   * On a line of its own the answer link, shown as five numbered taps; among other words a link like any; null for a
   * letter from a person.
   */
  link: string | null;
  optOut: string | null;
  picture: string | null;
};

/**
 * Both forms of an email around `body`. The taps of the rating only preselect on the page: following a link answers
 * nothing.
 */
export function emailPage(body: string, frame: EmailFrame): { text: string; html: string } {
  const footer = [
    frame.optOut ? `You get this because you were with ${frame.business} lately.` : "",
    frame.postalAddress,
  ].filter(Boolean);
  const text = [body, "", "--", ...footer, frame.optOut ? `No more messages from us: ${frame.optOut}` : ""]
    .join("\n")
    .trimEnd();
  const paragraphs = body
    .split(/\n{2,}/)
    .map((block) => {
      if (frame.link && block.trim() === frame.link) return ratingRow(frame.link, frame.colour);
      if (frame.link && block.trim() === `${frame.link}?r=5`)
        return answerButton(block.trim(), "Yes, it did", frame.colour);
      if (frame.link && block.trim() === `${frame.link}?r=1`)
        return answerButton(block.trim(), "Not really", "#221A2C");
      const html = escapeHtml(block).replaceAll("\n", "<br>");
      const linked = frame.link
        ? html.replaceAll(
            escapeHtml(frame.link),
            `<a href="${escapeHtml(frame.link)}" style="color:${frame.colour}">${escapeHtml(frame.link)}</a>`,
          )
        : html;
      return `<p style="margin:0 0 16px">${linked}</p>`;
    })
    .join("");
  const html = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(frame.business)}</title></head>
<body style="margin:0;background:#F5F6F1;color:#221A2C;font:16px/1.55 system-ui,-apple-system,'Segoe UI',sans-serif">
<table role="presentation" width="100%" cellpadding="0" cellspacing="0"><tr><td align="center" style="padding:24px 12px">
<table role="presentation" width="100%" cellpadding="0" cellspacing="0" style="max-width:560px;background:#fff;border:1px solid #DADCD3;border-top:4px solid ${frame.colour};border-radius:10px"><tr><td style="padding:28px 28px 12px">
<p style="margin:0 0 20px;font-weight:600;color:${frame.colour}">${escapeHtml(frame.business)}</p>${paragraphs}</td></tr></table>
<p style="max-width:560px;margin:16px auto 0;font-size:13px;line-height:1.5;color:#5A5364">${footer.map(escapeHtml).join("<br>")}${
    frame.optOut ? `<br><a href="${escapeHtml(frame.optOut)}" style="color:#5A5364">No more messages from us</a>` : ""
  }</p></td></tr></table>${frame.picture ? `<img src="${escapeHtml(frame.picture)}" width="1" height="1" alt="">` : ""}</body></html>`;
  return { text, html };
}

/** One of two answers: a link like the numbered taps, which only preselects. */
function answerButton(link: string, says: string, colour: string): string {
  return `<p style="margin:0 0 10px"><a href="${escapeHtml(link)}" style="display:inline-block;min-width:160px;line-height:44px;padding:0 18px;text-align:center;text-decoration:none;border:1px solid ${colour};border-radius:8px;color:${colour};font-weight:600">${says}</a></p>`;
}

function ratingRow(link: string, colour: string): string {
  const cell = (rating: number) =>
    `<td style="padding:0 6px 0 0"><a href="${escapeHtml(link)}?r=${rating}" style="display:block;width:44px;line-height:44px;text-align:center;text-decoration:none;border:1px solid #DADCD3;border-radius:8px;color:#221A2C;font-weight:600">${rating}</a></td>`;
  return `<table role="presentation" cellpadding="0" cellspacing="0" style="margin:4px 0 6px"><tr>${[1, 2, 3, 4, 5].map(cell).join("")}</tr></table>
<p style="margin:0 0 16px;font-size:13px;color:#5A5364">1 is poor, 5 is excellent. Or <a href="${escapeHtml(link)}" style="color:${colour}">open the page</a>.</p>`;
}
