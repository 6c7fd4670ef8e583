import { createTransport } from "nodemailer";
import { log, traceOf } from "../log";

/** Letters, where a mail server is configured: SMTP_URL and MAIL_FROM. Without one a lead hands the link over; nothing waits for a letter. */

const MAIL_CONFIGURED = Boolean(process.env.SMTP_URL && process.env.MAIL_FROM);

/** @returns whether the mail server took it; what it said else is in the log, without address or text */
export async function sendMail(to: string, subject: string, text: string): Promise<boolean> {
  if (!MAIL_CONFIGURED) return false;
  try {
    const transport = createTransport(process.env.SMTP_URL, { from: process.env.MAIL_FROM });
    await transport.sendMail({ to, subject, text });
    return true;
  } catch (error) {
    log.warn(traceOf(error), "a letter was not sent");
    return false;
  }
}
