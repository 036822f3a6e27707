import { Link } from "react-router";

/** An address that leads nowhere. */
export function MissingPage() {
  return (
    <div className="my-16">
      <h1 className="text-lg font-semibold">There is no such page</h1>
      <p className="mt-2 text-soft">
        The address may be cut off.{" "}
        <Link to="/" className="text-copper underline underline-offset-2">
          All upgrades
        </Link>
      </p>
    </div>
  );
}
