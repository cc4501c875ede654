/** The body of an email: its words as HTML that any mail program shows, and as plain text. The frame is `ui/emailPage`. */

export const escapeHtml = (text: string) =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");

/** The product's own words in a mail, in its language. */
export type MailWords = {
  /** Why they get it. */
  because: string;
  noMore: string;
  /** "1 is poor, 5 is excellent. Or [open the page].": what is in brackets becomes the link. */
  numbered: string;
  yes: string;
  no: string;
};

export type MailBody = {
  colour: string;
  /** An address that stands among the words; null for none. */
  link: string | null;
  /**
   * Whether the link is an answer page: on a line of its own it then becomes five numbered taps, or two buttons, which
   * only preselect on the page.
   */
  asksRating: boolean;
  words: MailWords;
};

/** The words as paragraphs, with taps and buttons in place of the answer links that stand alone. */
export function mailBlocks(body: string, { link, colour, asksRating, words }: MailBody): string {
  const shown = link ? escapeHtml(link) : "";
  return body
    .split(/\n{2,}/)
    .map((block) => {
      const alone = link && asksRating ? block.trim() : null;
      if (link && alone === link) return ratingRow(shown, colour, words);
      if (alone === `${link}?r=5`) return answerButton(alone, words.yes, colour);
      if (alone === `${link}?r=1`) return answerButton(alone, words.no, "#221A2C");
      const html = escapeHtml(block).replaceAll("\n", "<br>");
      const linked = link
        ? html.replaceAll(shown, `<a href="${shown}" class="own" style="color:${colour}">${shown}</a>`)
        : html;
      return `<p style="margin:0 0 16px">${linked}</p>`;
    })
    .join("");
}

/** One of two answers: a link like the numbered taps, which only preselects. */
function answerButton(link: string, says: string, colour: string): string {
  return `<p style="margin:0 0 10px"><a href="${escapeHtml(link)}" class="tap" style="display:inline-block;min-width:160px;line-height:44px;padding:0 18px;text-align:center;text-decoration:none;border:1px solid ${colour};border-radius:8px;color:${colour};font-weight:600">${escapeHtml(says)}</a></p>`;
}

/** A sentence as HTML, whose words in brackets are a link that begins with this tag. */
const linked = (says: string, open: string) =>
  escapeHtml(says).replace(/\[([^\]]*)\]/, (_whole, words: string) => `${open}${words}</a>`);

/** Five numbered taps. `href` is the link, escaped. */
function ratingRow(href: string, colour: string, words: MailWords): string {
  const cell = (rating: number) =>
    `<td style="padding:0 6px 0 0"><a href="${href}?r=${rating}" class="tap" style="display:block;width:44px;line-height:44px;text-align:center;text-decoration:none;border:1px solid #DADCD3;border-radius:8px;color:#221A2C;font-weight:600">${rating}</a></td>`;
  return `<table role="presentation" cellpadding="0" cellspacing="0" style="margin:4px 0 6px"><tbody><tr>${[1, 2, 3, 4, 5].map(cell).join("")}</tr></tbody></table><p class="soft" style="margin:0 0 16px;font-size:13px;color:#5A5364">${linked(words.numbered, `<a href="${href}" class="own" style="color:${colour}">`)}</p>`;
}

/** The first words of a mail, as mailboxes show them beside the subject. */
export function preheader(body: string, link: string | null): string {
  const said = body
    .split(/\n{2,}/)
    .filter((block) => !link || !block.includes(link))
    .slice(0, 3)
    .join(" ")
    .replace(/\s+/g, " ")
    .trim();
  return said.length <= 120 ? said : `${said.slice(0, 119).replace(/\s+\S*$/, "")}…`;
}
