import { data } from "react-router";
import { Trouble } from "~app/ui/trouble";

export function loader() {
  return data(null, { status: 404 });
}

export default function NotFound() {
  return <Trouble kind="not-found" />;
}
