/**
 * Returns the header field by which a browser shows a file or saves it, with its name (RFC 6266, RFC 8187).
 *
 * @param name as people write it, in any letters
 */
export function disposition(how: "inline" | "attachment", name: string): string {
  const encoded = encodeURIComponent(name.replace(/\p{Surrogate}/gu, "\ufffd")).replace(
    /['()*]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return `${how}; filename*=UTF-8''${encoded}`;
}
