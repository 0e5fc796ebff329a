import { QueryTypes, type QueryInterface } from 'sequelize';

/** The field's words: heights and crowns, the placement strategy that a hole followed, base maps, and four of a bush's own numbers. */
export async function up(query: QueryInterface): Promise<void> {
  if (await query.tableExists('statures')) await query.renameTable('statures', 'heightsAndCrowns');
  if (await query.tableExists('grounds')) await query.renameTable('grounds', 'baseMaps');
  if ('school' in (await query.describeTable('tapholes'))) await query.renameColumn('tapholes', 'school', 'strategy');
  for (const table of ['bushes', 'bushChanges'])
    for (const [older, name] of [
      ['ladder', 'tapGuideline'],
      ['ownLadder', 'ownGuideline'],
      ['school', 'strategy'],
      ['stockingSchool', 'stockingGuide']
    ])
      await query.sequelize.query(
        `UPDATE ${table} SET settings =
           JSON_REMOVE(JSON_SET(settings, '$.${name}', JSON_EXTRACT(settings, '$.${older}')), '$.${older}')
         WHERE JSON_CONTAINS_PATH(settings, 'one', '$.${older}')`,
        { type: QueryTypes.UPDATE }
      );
}
