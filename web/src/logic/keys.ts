/** Names for writes that no two of them share. A page over plain http has no `randomUUID`; an old browser may have no source of chance at all. */
export function newKey(chance: Pick<Crypto, "getRandomValues"> | undefined = globalThis.crypto): string {
  const bytes = new Uint8Array(16);
  if (chance) chance.getRandomValues(bytes);
  else bytes.forEach((_, i) => (bytes[i] = Math.floor(Math.random() * 256)));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}
