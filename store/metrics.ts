import { Counter, collectDefaultMetrics, Gauge, Histogram, type OpenMetricsContentType, Registry } from 'prom-client';

/** What a process tells of itself to whoever watches over it (OpenMetrics 1.0); nothing of the books. */
interface Metrics {
  registry: Registry<OpenMetricsContentType>;
  /** Answers by what was asked and how it ended. */
  answers: Counter<'of' | 'status'>;
  seconds: Histogram<'of'>;
  underWay: Gauge;
}

/** The same for every part of the process, however often its code was bundled. */
const HELD = Symbol.for('just-thread metrics');

function made(): Metrics {
  const registry = new Registry<OpenMetricsContentType>();
  registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
  const registers = [registry as never];
  collectDefaultMetrics({ register: registry as never, prefix: 'just_thread_' });
  return {
    registry,
    answers: new Counter({
      ...{ name: 'just_thread_answers', help: 'Requests that were answered', registers },
      labelNames: ['of', 'status'],
    }),
    seconds: new Histogram({
      ...{ name: 'just_thread_answer_seconds', help: 'How long answers took', registers, labelNames: ['of'] },
      buckets: [0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 15, 60],
    }),
    underWay: new Gauge({ name: 'just_thread_under_way', help: 'Requests that are being answered', registers }),
  };
}

export function metrics(): Metrics {
  const all = globalThis as { [HELD]?: Metrics };
  all[HELD] ??= made();
  return all[HELD];
}
