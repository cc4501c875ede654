import type { Metadata, Viewport } from "next";
import type { ReactNode } from "react";
import "./globals.css";

export const metadata: Metadata = { title: { default: "Estima", template: "%s · Estima" }, robots: { index: false } };
export const viewport: Viewport = { width: "device-width", initialScale: 1 };
// Every page carries a nonce of its own and shows what is so now.
export const dynamic = "force-dynamic";

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
