import { Link } from "react-router";
import { Mark } from "../components/mark";

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
