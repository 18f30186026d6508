const stepsFor = (canTry: boolean): [name: string, what: string][] => [
  ['Bring in', 'Take a download as it is, without unpacking it. You see what is inside.'],
  ['Place', 'The app finds the folder of the game where each file belongs, and says why.'],
  ['Settings', 'If the game must be told to use packs, the app turns that one switch on.'],
  ['Deploy', 'You see the plan first. Originals are kept and checked before anything is replaced.'],
  [
    'Check',
    canTry
      ? 'A trial run shows that the game really loads what you put in.'
      : 'You start the game and come back. The app reads its log by itself, says what came of it, and finds out why something does not load.',
  ],
  ['Ledger', 'Put everything back at any time, byte for byte.'],
];

/** What a new player sees where the first pack will be. */
export function HowItGoes({ title, canTry }: { title: string; canTry: boolean }) {
  return (
    <section className="sheet" aria-label="How it goes">
      <h1>Begin with one pack for {title}</h1>
      <p className="quiet">Nothing in the game’s folders changes until you deploy, and everything can be put back.</p>
      <table className="table m-0">
        <tbody>
          {stepsFor(canTry).map(([name, what]) => (
            <tr key={name}>
              <th scope="row" style={{ width: '7rem' }}>
                {name}
              </th>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
