import { createTransport } from "nodemailer";
import { log, traceOf } from "../log";

/** Letters, where a mail server is configured: SMTP_URL and MAIL_FROM. Without one a lead hands the link over; nothing waits for a letter. */

/** @returns whether the mail server took it; what it said else is in the log, without address or text */
export async function sendMail(to: string, subject: string, text: string): Promise<boolean> {
  const { SMTP_URL, MAIL_FROM } = process.env;
  if (!SMTP_URL || !MAIL_FROM) return false;
  try {
    const transport = createTransport(SMTP_URL, { from: MAIL_FROM });
    await transport.sendMail({ to, subject, text });
    return true;
  } catch (error) {
    log.warn(traceOf(error), "a letter was not sent");
    return false;
  }
}
