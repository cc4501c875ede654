import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  // Types are checked by `npm run check`, with the same compiler as everywhere.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ["pg", "nodemailer", "pino", "graphile-worker", "date-holidays"],
  experimental: { serverActions: { bodySizeLimit: "1mb" } },
};

export default config;
