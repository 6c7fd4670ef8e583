/** How an owner is reached: dialled and written to with one tap. */
export function Reach({ phone, email, contact }: { phone: string; email: string; contact: string }) {
  const link = "inline-flex min-h-11 items-center underline decoration-edge underline-offset-4";
  return (
    <span className="flex flex-wrap gap-x-5">
      {phone && (
        <a href={`tel:${phone.replace(/[^+\d]/g, "")}`} className={link}>
          {phone}
        </a>
      )}
      {email && (
        <a href={`mailto:${email}`} className={link}>
          {email}
        </a>
      )}
      {contact && <span className="inline-flex min-h-11 items-center text-soft">{contact}</span>}
    </span>
  );
}
