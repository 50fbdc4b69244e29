/** An answer over SMTP: RFC 5321, section 4.2, with an enhanced status code as in RFC 3463. */
export class SmtpAnswer extends Error {
  constructor(
    readonly responseCode: number,
    message: string,
  ) {
    super(message);
  }
}
