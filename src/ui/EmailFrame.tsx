import { Body } from "@react-email/body";
import { Container } from "@react-email/container";
import { Head } from "@react-email/head";
import { Html } from "@react-email/html";
import { Img } from "@react-email/img";
import { Link } from "@react-email/link";
import { Section } from "@react-email/section";
import { Text } from "@react-email/text";
import type { MailFrame } from "./emailPage";

/** What stands around the words of an email: one column, light or dark, for any mail program. */

/** Stand for what differs from mail to mail; filled in after the frame was rendered once. */
export const MARKS = {
  body: "[[estima:body]]",
  preheader: "[[estima:preheader]]",
  optOut: "https://estima.invalid/opt-out",
  picture: "https://estima.invalid/picture",
  named: "https://estima.invalid/named",
  namedAlt: "[[estima:named]]",
};

const DARK = `
@media (prefers-color-scheme:dark){
body,.page{background:#1B1820!important}.sheet{background:#28232F!important;border-color:#3B3543!important}
.sheet p,.sheet td,.tap{color:#F2EFEA!important}.tap{border-color:#8C8496!important}.foot,.foot a,.soft{color:#C3BCCB!important}
.own{color:#F0C3E2!important}}
@media (max-width:400px){.sheet{padding-left:16px!important;padding-right:16px!important}}`;

/** A picture as wide as the words. */
const WIDE = {
  display: "block",
  width: "100%",
  maxWidth: 504,
  height: "auto",
  border: 0,
  borderRadius: 8,
  margin: "0 0 18px",
} as const;

export function EmailFrame({ frame }: { frame: MailFrame }) {
  const { business, colour, postalAddress, optOut, picture, logo, header, portrait, words, signature, links, named } =
    frame;
  const head = { margin: "0 0 20px", fontWeight: 600, color: colour };
  return (
    <Html lang={frame.language ?? "en"} dir="ltr">
      <Head>
        <meta name="viewport" content="width=device-width" />
        <meta name="color-scheme" content="light dark" />
        <meta name="supported-color-schemes" content="light dark" />
        <title>{business}</title>
        <style dangerouslySetInnerHTML={{ __html: DARK }} />
      </Head>
      <Body
        style={{
          margin: 0,
          background: "#F5F6F1",
          color: "#221A2C",
          font: "16px/1.55 system-ui,-apple-system,'Segoe UI',sans-serif",
          overflowWrap: "anywhere",
        }}
      >
        <div style={{ display: "none", overflow: "hidden", lineHeight: "1px", maxHeight: 0, opacity: 0 }}>
          {MARKS.preheader}
        </div>
        <Container
          className="page"
          style={{ maxWidth: 560, width: "100%", tableLayout: "fixed", padding: "24px 12px", background: "#F5F6F1" }}
        >
          <Section
            className="sheet"
            style={{
              background: "#fff",
              border: "1px solid #DADCD3",
              borderTop: `4px solid ${colour}`,
              borderRadius: 10,
              padding: "28px 28px 12px",
              tableLayout: "fixed",
            }}
          >
            {logo ? (
              <Img
                src={logo.url}
                width={logo.width}
                height={logo.height}
                alt={business}
                style={{ ...head, display: "block", border: 0 }}
              />
            ) : (
              <Text className="own" style={{ ...head, fontSize: 16 }}>
                {business}
              </Text>
            )}
            {header ? <Img src={header.url} width={504} alt="" style={WIDE} /> : null}
            {named ? <Img src={MARKS.named} width={504} alt={MARKS.namedAlt} style={WIDE} /> : null}
            {MARKS.body}
            {portrait ? (
              <Img
                src={portrait.url}
                width={56}
                height={56}
                alt=""
                style={{ display: "block", border: 0, borderRadius: 28, margin: "0 0 16px" }}
              />
            ) : null}
          </Section>
          <Text className="foot" style={{ margin: "16px 0 0", fontSize: 13, lineHeight: 1.5, color: "#5A5364" }}>
            {[signature, optOut ? words.because : "", postalAddress].filter(Boolean).map((line) => (
              <span key={line}>
                {line}
                <br />
              </span>
            ))}
            {(links ?? []).map(({ name, url }) => (
              <span key={url}>
                <Link href={url} style={{ color: "#5A5364", textDecoration: "underline" }}>
                  {name}
                </Link>{" "}
              </span>
            ))}
            {optOut ? (
              <Link href={MARKS.optOut} style={{ color: "#5A5364", textDecoration: "underline" }}>
                {words.noMore}
              </Link>
            ) : null}
          </Text>
        </Container>
        {picture ? <Img src={MARKS.picture} width={1} height={1} alt="" /> : null}
      </Body>
    </Html>
  );
}
