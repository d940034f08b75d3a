/** What of the logbook an address asks for. */
import { LogbookQuery } from './dto';
import { queryAs } from './parse';

/** @throws FaultError naming what cannot be asked */
export function logbookAsk(url: URL): LogbookQuery {
	const asked = new URL(url);
	// a field that was left empty asks for nothing
	for (const [key, value] of [...asked.searchParams]) if (!value.trim()) asked.searchParams.delete(key);
	return queryAs(LogbookQuery, asked, ['thicknessMm', 'page']);
}
