import { useMutation, useQuery } from '@tanstack/react-query';
import { type DemoCompany } from '@zawn/core';
import { Button } from 'antd';
import { call } from '../api/client';

/** The way into a demo company beside one's own organisation, where there can be one. */
export function DemoCompanyBeside() {
  const { data: offer } = useQuery({
    queryKey: ['demo-company'],
    queryFn: () => call<DemoCompany>('GET', '/demo-company'),
    staleTime: Infinity,
  });
  const start = useMutation({ mutationFn: () => call<DemoCompany>('POST', '/demo-company') });
  if (!offer?.isOffered) return null;
  return (
    <p className="demo-company">
      {start.data?.address ? (
        <a href={start.data.address} target="_blank" rel="noreferrer">
          Open the demo company
        </a>
      ) : (
        <Button size="small" loading={start.isPending} onClick={() => start.mutate()}>
          {start.isPending ? 'Making the demo company' : 'Look around in a demo company'}
        </Button>
      )}
      <span className="second">
        {start.error ? start.error.message : 'A made-up company beside yours, with data of its own.'}
      </span>
    </p>
  );
}
