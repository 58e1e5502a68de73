-- Steps rest on which board it is, no longer on what it is called.
update "step_record" r set "done" = jsonb_set(r."done", '{basis,board}', to_jsonb(b."id"::text))
from "unit" u join "board" b on b."id" = u."board_id"
where u."id" = r."unit_id" and jsonb_typeof(r."done" -> 'basis') = 'object' and r."done" -> 'basis' ? 'board'
  and r."done" -> 'basis' ->> 'board' = concat_ws(' ', nullif(b."maker", ''), nullif(b."product", ''), nullif(b."revision", ''));
