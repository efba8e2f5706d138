-- A routine names the hearing its counts stand on. Those that named none stood on the first of their song.
UPDATE `routines` SET `document` = json_set(`document`, '$.heardWith', (SELECT min(h.`version`) FROM `hearings` h WHERE h.`song_id` = `routines`.`song_id`))
WHERE json_valid(`document`)
	AND coalesce(json_extract(`document`, '$.heardWith'), 0) = 0
	AND coalesce(json_array_length(`document`, '$.phrases'), 0) > 0
	AND EXISTS (SELECT 1 FROM `hearings` h WHERE h.`song_id` = `routines`.`song_id`);
