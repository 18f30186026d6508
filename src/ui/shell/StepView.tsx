'use client';

import type { StepId } from '@/core';
import { BringIn } from '@/ui/bring-in/BringIn';
import { Check } from '@/ui/check/Check';
import { Deploy } from '@/ui/deploy/Deploy';
import { Ledger } from '@/ui/ledger/Ledger';
import { Place } from '@/ui/place/Place';
import { Settings } from '@/ui/settings/Settings';
import { Stack } from '@/ui/stack/Stack';

const VIEWS: Record<StepId, () => React.ReactNode> = { 'bring-in': BringIn, place: Place, stack: Stack, settings: Settings, deploy: Deploy, check: Check, ledger: Ledger };

/** The view of one step. */
export function StepView({ step }: { step: StepId }) {
  const View = VIEWS[step];
  return <View />;
}
