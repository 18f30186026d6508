'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { Finding, Fix } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { count } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import { useFollow } from '@/ui/shared/useFollow';
import { SetAside } from './SetAside';

/**
 * One finding: what was seen, why, and the cures. A cure changes the layers; the plan shows it before anything is
 * written.
 */
export function FindingNotice({ finding, canSetAside = false }: { finding: Finding; canSetAside?: boolean }) {
  const { act, busy } = useEngine();
  const { switches, packs } = useGame();
  const router = useRouter();
  const follow = useFollow();
  const { fixes, level } = finding;
  const [first] = fixes;
  const pending =
    first?.kind === 'edit' &&
    switches.some(
      (one) => one.pending && one.file === first.file && one.path.join('\n') === first.edit.path.join('\n'),
    );
  const tag = packs.find(({ layer }) => layer === finding.layer)?.tag;
  const apply = async (fix: Fix) => {
    if (fix.kind === 'go') return router.push(`/game/${fix.step}`);
    const go = follow('/game/deploy');
    const done = await act(async (engine) => {
      if (fix.kind !== 'deploy' && !(pending && fix === first)) await engine.change({ do: 'fix', fix });
      return true;
    });
    if (done) go();
  };
  return (
    <Notice
      id={finding.id}
      level={level}
      weight={finding.weight}
      title={finding.title}
      action={
        <span className="stackup align-items-end" style={{ gap: '0.3rem' }}>
          {fixes.map((fix, i) => (
            <Button
              key={fix.label}
              size="sm"
              variant={level === 'wrong' && i === 0 ? 'primary' : 'outline-primary'}
              disabled={busy}
              onClick={() => void apply(fix)}
            >
              {pending && i === 0 ? 'Look at the plan' : fix.label}
            </Button>
          ))}
        </span>
      }
    >
      <p>
        {tag && <Tag tag={tag} name={packs.find(({ layer }) => layer === finding.layer)?.name ?? ''} />}{' '}
        {pending ? 'Its edit waits in the plan.' : finding.cause}
      </p>
      {finding.evidence !== '' && <p className="small quiet path">{finding.evidence}</p>}
      <Aside finding={finding} can={canSetAside && level === 'wrong'} />
      <Link className="small ms-2" href={`/game/check?finding=${encodeURIComponent(finding.id)}`}>
        Link to this
      </Link>
    </Notice>
  );
}

/** What was folded into it; a line of the log can be set aside. */
function Aside({ finding: { id, title, seen }, can }: { finding: Finding; can: boolean }) {
  if (seen) return <Seen seen={seen} canSetAside={can} />;
  return can && isFromLog(id) && <SetAside key={id} id={id} says={title} />;
}

/** So many of one cause are quoted, the first of them at once. */
const QUOTED = 200;
const AT_ONCE = 3;

const isFromLog = (id: string): boolean => id.startsWith('log:');

/** What was folded into one finding, each quoted and set aside for itself. */
function Seen({ seen, canSetAside }: { seen: NonNullable<Finding['seen']>; canSetAside: boolean }) {
  const quote = ({ id, title, evidence }: (typeof seen)[number]) => (
    <li key={id}>
      {!evidence.includes(title) && title} <span className="quiet path">{evidence}</span>{' '}
      {canSetAside && isFromLog(id) && <SetAside id={id} says={title} quoted />}
    </li>
  );
  return (
    <>
      <ul className="reasons small">{seen.slice(0, AT_ONCE).map(quote)}</ul>
      {seen.length > AT_ONCE && (
        <details className="small">
          <summary>{count(seen.length - AT_ONCE)} more of the same cause</summary>
          <ul className="reasons log-lines" tabIndex={0} role="list" aria-label="More of the same cause">
            {seen.slice(AT_ONCE, QUOTED).map(quote)}
            {seen.length > QUOTED && <li className="quiet">…and {count(seen.length - QUOTED)} more</li>}
          </ul>
        </details>
      )}
    </>
  );
}
