type Context = { params: Promise<{ client: string }> };

/** What a phone needs to put the page for the desk on its home screen (Web Application Manifest). It tells nothing. */
export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { client } = await params;
  if (!/^[a-z0-9-]{1,80}$/.test(client)) return new Response("Not found", { status: 404 });
  return new Response(
    JSON.stringify({
      name: "Ask a customer",
      short_name: "Ask",
      id: `/c/${client}/desk`,
      start_url: `/c/${client}/desk`,
      scope: `/c/${client}/`,
      display: "standalone",
      background_color: "#F5F6F1",
      theme_color: "#6A2156",
      icons: [192, 512].map((size) => ({
        src: `/icons/estima-${size}.png`,
        sizes: `${size}x${size}`,
        type: "image/png",
        purpose: "any maskable",
      })),
    }),
    { headers: { "content-type": "application/manifest+json", "cache-control": "public, max-age=3600" } },
  );
}
