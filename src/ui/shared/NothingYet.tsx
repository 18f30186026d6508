import Link from 'next/link';

interface Props {
  what: string;
  /** Where something can be done about it. */
  href?: string;
  action?: string;
}

/** What a step shows before there is anything in it. */
export function NothingYet({ what, href = '/game/bring-in', action = 'Bring in a pack' }: Props) {
  return (
    <div className="sheet text-center p-5">
      <h1 className="h3 mb-2">{what}</h1>
      <Link href={href}>{action}</Link>
    </div>
  );
}
