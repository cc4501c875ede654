/**
 * A whole page of HTML as a response. The web server sends its text as it stands; the response proper, whose stream
 * takes longer to make and to read than the text to send, is there for whoever asks for it.
 */
export class HtmlResponse extends Response {
  #whole: Response | undefined;

  constructor(
    readonly html: string,
    readonly plainHeaders: Readonly<Record<string, string>>,
    status = 200,
  ) {
    super(null, { status });
  }

  get #response(): Response {
    this.#whole ??= new Response(this.html, { status: this.status, headers: this.plainHeaders });
    return this.#whole;
  }

  override get headers(): Headers {
    return this.#response.headers;
  }

  override get body(): Response["body"] {
    return this.#response.body;
  }

  override get bodyUsed(): boolean {
    return this.#response.bodyUsed;
  }

  override text(): Promise<string> {
    return this.#response.text();
  }

  override arrayBuffer(): Promise<ArrayBuffer> {
    return this.#response.arrayBuffer();
  }

  override blob(): Promise<Blob> {
    return this.#response.blob();
  }

  override clone(): Response {
    return this.#response.clone();
  }
}
