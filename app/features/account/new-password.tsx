import type { ComponentProps } from "react";
import { TextField } from "~app/ui/field";

/** Where a password is chosen: what is asked of it stands beside it. */
export function NewPassword({
  field,
  label,
  least,
}: Pick<ComponentProps<typeof TextField>, "field" | "label"> & { least: number }) {
  return (
    <TextField
      field={field}
      label={label}
      type="password"
      autoComplete="new-password"
      hint={`${least} characters at least. Some words in a row are easy to keep.`}
    />
  );
}
