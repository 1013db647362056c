/** What a page of ours may load and run, and who may show it: the headers of every page. */

/** The header by which the nonce of a page's scripts goes to what renders it. */
export const NONCE = "x-nonce";

/**
 * The content security policy of one page. Scripts within a page run by its nonce alone, others come from here; no
 * text is run as a program, but WebAssembly is (the reader of databases, in the browser's look at a file). Styles are set by the
 * libraries of the interface as they need; a style can do no more than look wrong. In development the framework runs
 * texts and listens to its own server.
 */
export function contentPolicy(nonce: string, dev = false): string {
  return Object.entries({
    "default-src": "'self'",
    "script-src": `'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${dev ? " 'unsafe-eval'" : ""}`,
    "style-src": "'self' 'unsafe-inline'",
    "img-src": "'self' data: blob:",
    "font-src": "'self' data:",
    "connect-src": `'self'${dev ? " ws:" : ""}`,
    "worker-src": "'self' blob:",
    "object-src": "'none'",
    "base-uri": "'none'",
    "form-action": "'self'",
    "frame-ancestors": "'none'",
  })
    .map(([what, from]) => `${what} ${from}`)
    .join("; ");
}
