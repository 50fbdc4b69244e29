UPDATE "list" SET "rules" = "rules" || '{"shelfKinds": "no programs"}'::jsonb WHERE NOT "rules" ? 'shelfKinds';
