/** Headers as a browser on a phone sends them: a request without is taken for a machine's. */
export const BROWSER = {
  "user-agent":
    "Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36",
  accept: "text/html,application/xhtml+xml,*/*;q=0.8",
  "accept-language": "en-GB,en;q=0.8",
};
