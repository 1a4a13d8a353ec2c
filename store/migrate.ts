import type { Knex } from 'knex';
import { connectForWork } from './db';
import * as ledger from './migrations/0001_ledger';
import * as people from './migrations/0002_people_and_evidence';
import * as deliveries from './migrations/0003_deliveries';
import * as statements from './migrations/0004_statements';
import * as threads from './migrations/0005_threads';
import * as settings from './migrations/0006_settings';
import * as preferences from './migrations/0007_preferences';
import * as keptScopes from './migrations/0008_kept_scopes';
import * as grants from './migrations/0009_grants';
import * as source from './migrations/0010_source';
import * as folders from './migrations/0011_folders';
import * as taxCodes from './migrations/0012_tax_codes';
import * as safety from './migrations/0013_safety';
import * as resultsInOrder from './migrations/0014_results_in_order';
import * as steps from './migrations/0015_steps';
import * as evidence from './migrations/0016_evidence';
import * as parties from './migrations/0017_parties';
import * as schemeCaptions from './migrations/0018_scheme_captions';
import * as cashBasis from './migrations/0019_cash_basis';
import * as columns from './migrations/0020_columns';
import * as search from './migrations/0021_search';
import * as documentLines from './migrations/0022_document_lines';
import * as recordOfWork from './migrations/0023_record_of_work';
import * as sharingAndWords from './migrations/0024_sharing_and_words';
import * as samples from './migrations/0025_samples';
import * as tests from './migrations/0026_tests';
import * as expectations from './migrations/0027_expectations';
import * as proposedEntries from './migrations/0028_proposed_entries';
import * as leaving from './migrations/0029_leaving';
import * as overviews from './migrations/0030_overviews';
import * as proposedCurrency from './migrations/0031_proposed_currency';
import * as embeds from './migrations/0032_embeds';
import * as paperTemplates from './migrations/0033_paper_templates';
import * as scheduleParts from './migrations/0034_schedule_parts';
import { migrateQueue } from './queue';
import { type Addresses, giveOwners, grantRights, makeRoles } from './roles';

const migrations: Record<string, Knex.Migration> = {
  '0001_ledger': ledger,
  '0002_people_and_evidence': people,
  '0003_deliveries': deliveries,
  '0004_statements': statements,
  '0005_threads': threads,
  '0006_settings': settings,
  '0007_preferences': preferences,
  '0008_kept_scopes': keptScopes,
  '0009_grants': grants,
  '0010_source': source,
  '0011_folders': folders,
  '0012_tax_codes': taxCodes,
  '0013_safety': safety,
  '0014_results_in_order': resultsInOrder,
  '0015_steps': steps,
  '0016_evidence': evidence,
  '0017_parties': parties,
  '0018_scheme_captions': schemeCaptions,
  '0019_cash_basis': cashBasis,
  '0020_columns': columns,
  '0021_search': search,
  '0022_document_lines': documentLines,
  '0023_record_of_work': recordOfWork,
  '0024_sharing_and_words': sharingAndWords,
  '0025_samples': samples,
  '0026_tests': tests,
  '0027_expectations': expectations,
  '0028_proposed_entries': proposedEntries,
  '0029_leaving': leaving,
  '0030_overviews': overviews,
  '0031_proposed_currency': proposedCurrency,
  '0032_embeds': embeds,
  '0033_paper_templates': paperTemplates,
  '0034_schedule_parts': scheduleParts,
};

/** Steps of the schema that this version knows, the oldest first. */
export const knownMigrations = (): string[] => Object.keys(migrations);

/**
 * Brings the schema up to date, the queue's own with it, and gives every role what is its own; nothing happens if all is
 * as it should be.
 * @param given address of a role that may make roles, see makeRoles
 */
export async function migrate(given: string): Promise<Addresses> {
  const addresses = await makeRoles(given);
  if (addresses.apart) await giveOwners(given);
  const db = connectForWork(addresses.schema);
  try {
    await latest(db);
  } finally {
    await db.destroy();
  }
  await migrateQueue(addresses.work);
  if (addresses.apart) {
    await giveOwners(given);
    await grantRights(given);
  }
  return addresses;
}

async function latest(db: Knex): Promise<void> {
  await db.migrate.latest({
    migrationSource: {
      getMigrations: async () => Object.keys(migrations),
      getMigrationName: (name: string) => name,
      getMigration: async (name: string) => migrations[name] as Knex.Migration,
    },
  });
}
