'use client';

import dynamic from 'next/dynamic';
import type { ComponentType } from 'react';
import type { StepId } from '@/core';

/** Each step is loaded when it is opened. */
const VIEWS: Record<StepId, ComponentType> = {
  'bring-in': dynamic(() => import('@/ui/bring-in/BringIn').then(({ BringIn }) => BringIn)),
  place: dynamic(() => import('@/ui/place/Place').then(({ Place }) => Place)),
  stack: dynamic(() => import('@/ui/stack/Stack').then(({ Stack }) => Stack)),
  settings: dynamic(() => import('@/ui/settings/Settings').then(({ Settings }) => Settings)),
  deploy: dynamic(() => import('@/ui/deploy/Deploy').then(({ Deploy }) => Deploy)),
  check: dynamic(() => import('@/ui/check/Check').then(({ Check }) => Check)),
  ledger: dynamic(() => import('@/ui/ledger/Ledger').then(({ Ledger }) => Ledger)),
};

/** The view of one step. */
export function StepView({ step }: { step: StepId }) {
  const View = VIEWS[step];
  return <View />;
}
