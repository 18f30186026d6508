import {
  deploy,
  mindOriginals,
  recover,
  type DeployOptions,
  type LayerNote,
  type LedgerEntry,
  type Minded,
  type Plan,
  type Recovery,
  type WorkOptions,
  type Workshop,
} from '@/core';

/** What a deployment is given on the way: how to stop it, whom to tell, and whom to ask. */
export type DeployWork = WorkOptions & Pick<DeployOptions, 'onStuck'>;

/** What a deployment is called in the ledger, and the layers that it is of. */
export interface Order {
  title: string;
  layers: readonly LayerNote[];
}

/** Who carries plans out for a game: this worker, or the app's own server. Handed to the game when it is opened. */
export interface Carrier {
  deploy(plan: Plan, order: Order, options: DeployWork): Promise<LedgerEntry>;
  /** Finishes or takes back what was cut off. */
  recover(): Promise<Recovery | undefined>;
  /** Looks after the originals, as long as nothing else is to be done. */
  mind(options: WorkOptions): Promise<Minded>;
  /** A pack was just brought in: what can be got ready for it is. */
  sendAhead(packId: string): Promise<void>;
}

export const carriedOutHere = (workshop: Workshop): Carrier => ({
  deploy: (plan, order, options) => deploy(plan, workshop, { ...options, ...order }),
  recover: () => recover(workshop),
  mind: (options) => mindOriginals(workshop, options),
  sendAhead: () => Promise.resolve(),
});
