import { data, Link } from "react-router";
import { Mark } from "../components/mark";

/** The address exists nowhere, and programs are told so too. */
export const loader = () => data(null, { status: 404 });

export default function NothingHere() {
  return (
    <main className="opening">
      <Mark />
      <h1>There is nothing at this address</h1>
      <p>
        <Link to="/">Back to the shelf</Link>
      </p>
    </main>
  );
}
