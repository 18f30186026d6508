import Link from 'next/link';

/** An address that leads nowhere. */
export default function NotFound() {
  return (
    <main className="home">
      <title>Nothing here · Tidy Satchel</title>
      <section className="sheet stackup inner">
        <h1>There is nothing at this address</h1>
        <p className="m-0">
          It may have been cut off when it was copied, or it is of another version of the app. Your games and packs are
          as they were.
        </p>
        <Link href="/">Back to your game</Link>
      </section>
    </main>
  );
}
