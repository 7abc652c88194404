import { pipelinesOffered } from './pipelines-offered';

const [sales, renewals, tenders] = [{ id: 1 }, { id: 2 }, { id: 3 }];
const all = [sales, renewals, tenders];
const link = (pipeline: number, team: number, proposed = false) => ({ pipeline, team, proposed });

describe('the pipelines offered to somebody', () => {
  it('are all of them, in their order, as long as no team is named', () => {
    expect(pipelinesOffered(all, [], [7])).toEqual(all);
  });

  it('are those of their teams and those that are everybody’s', () => {
    expect(pipelinesOffered(all, [link(1, 7), link(2, 8)], [7])).toEqual([sales, tenders]);
    expect(pipelinesOffered(all, [link(1, 7), link(2, 8)], [8, 7])).toEqual(all);
  });

  it('begin with the one proposed to their main team, or else to another of theirs', () => {
    const links = [link(1, 7), link(3, 7, true), link(2, 8, true)];
    expect(pipelinesOffered(all, links, [7, 8])[0]).toBe(tenders);
    expect(pipelinesOffered(all, links, [8, 7])[0]).toBe(renewals);
    expect(pipelinesOffered(all, links, [7])).toEqual([tenders, sales]);
  });

  it('are all of them where no pipeline is left otherwise', () => {
    expect(pipelinesOffered([sales], [link(1, 7)], [9])).toEqual([sales]);
  });
});
