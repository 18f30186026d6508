import { notFound } from 'next/navigation';
import { STEPS } from '@/core';
import { StepView } from '@/ui/shell/StepView';

export default async function StepPage({ params }: { params: Promise<{ step: string }> }) {
  const { step } = await params;
  const found = STEPS.find((one) => one === step);
  if (!found) notFound();
  return <StepView step={found} />;
}
