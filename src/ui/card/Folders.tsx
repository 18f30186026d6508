'use client';

import { explainPortable, type GameCard } from '@/core';
import { useGame } from '@/ui/engine';
import { place } from '@/ui/shared/format';
import { AddFolder } from './AddFolder';

/** Where the game's folders are and why, and what switching a program to its portable place would mean. */
export function Folders({ card }: { card: GameCard }) {
  const { roots } = useGame();
  return (
    <section className="sheet" aria-label="Folders of the game">
      <h2>Its folders</h2>
      <table className="table table-sm m-0">
        <tbody>
          {roots.map(({ id, title, files, where, why }) => {
            const portable = explainPortable(card, id);
            return (
              <tr key={id}>
                <th scope="row" style={{ width: '12rem' }}>
                  {title}
                </th>
                <td>
                  {where}, {files.toLocaleString('en')} files.{why && <span> {why}</span>}
                  {portable && !why && (
                    <details className="small mt-1">
                      <summary>Keeping it beside the program (portable): what would happen</summary>
                      <p className="m-0">
                        With a file <span className="path">{place(portable.marker, roots)}</span> the program uses{' '}
                        <span className="path">{place(portable.at, roots)}</span> instead. {portable.moves} If you want
                        it: put everything back first, make that file, copy what you need, and open the game here again;
                        the app then finds the folder by itself.
                      </p>
                    </details>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <AddFolder noSettings={card.settings.length === 0} />
    </section>
  );
}
