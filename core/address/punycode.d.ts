declare module "punycode.js" {
  const punycode: { toUnicode(domain: string): string };
  export default punycode;
}
