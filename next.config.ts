import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  // Types are checked by `npm run check`, with the same compiler as everywhere.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    "pg",
    "nodemailer",
    "pino",
    "graphile-worker",
    "date-holidays",
    "exceljs",
    "@react-pdf/renderer",
    "satori",
  ],
  // Lists may be 25 MB; what is cut off at the proxy would look like a shorter list.
  experimental: { serverActions: { bodySizeLimit: "6mb" }, proxyClientMaxBodySize: "26mb" },
};

export default config;
