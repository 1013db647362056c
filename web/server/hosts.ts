/**
 * Names by which this server may be asked: a page of another site must not reach it through the person's browser by a
 * name that points here. Others are added by BRAMBLE_HOSTS, with commas between.
 */
export function isKnownHost(host: string): boolean {
  const others = process.env.BRAMBLE_HOSTS?.toLowerCase().split(",") ?? [];
  return ["127.0.0.1", "localhost", "[::1]", ...others].includes(host.replace(/:\d+$/, "").toLowerCase());
}
