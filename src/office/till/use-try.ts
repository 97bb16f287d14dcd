import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { TillRules } from '../../core/till/rules';
import { call, viewKey } from '../api';
import { useBoot } from '../shop-context';

export interface TriedInput {
  readonly lines: readonly { readonly variantId: string; readonly quantity: number }[];
  readonly country: string;
  readonly state: string;
  readonly postcode: string;
  readonly way: string;
  readonly code: string;
}

const keyOf = (slug: string) => `try:${slug}`;
const empty: TriedInput = { lines: [], country: '', state: '', postcode: '', way: '', code: '' };

/** The cart that is tried; it is there again the next time. */
export type ChangeTried = (to: (now: TriedInput) => TriedInput) => void;

export function useTriedInput(): [TriedInput, ChangeTried] {
  const { site } = useBoot();
  const [input, setInput] = useState<TriedInput>(() => {
    try {
      return {
        ...empty,
        country: site.country,
        ...(JSON.parse(localStorage.getItem(keyOf(site.slug)) ?? '{}') as Partial<TriedInput>),
      };
    } catch {
      return empty;
    }
  });
  useEffect(() => localStorage.setItem(keyOf(site.slug), JSON.stringify(input)), [input, site.slug]);
  // By what it is now: presses that come faster than the page is drawn all count.
  return [input, setInput];
}

/** Worked out by the server a moment after the last key. */
export function useTry(input: TriedInput, rules: TillRules) {
  const { site } = useBoot();
  const body = JSON.stringify({
    lines: input.lines,
    country: input.country,
    state: input.state,
    postcode: input.postcode,
    way: input.way,
    codes: input.code.split(/[\s,]+/).filter(Boolean),
    rules,
  });
  const [settled, setSettled] = useState(body);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(body), 200);
    return () => clearTimeout(timer);
  }, [body]);
  return useQuery({
    queryKey: viewKey('try', settled),
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => call(site.slug, 'POST till/try', { body: JSON.parse(settled) }),
  });
}
