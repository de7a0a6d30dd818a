<?php

declare(strict_types=1);

use App\Database\Tables;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** What all projects share: calendars, codes, own fields; and the row that is locked to change any of it. */
return new class extends Tables
{
    public function up(): void
    {
        parent::up();
        DB::table('enterprise')->insertOrIgnore(['id' => 1, 'uid' => (string) Str::ulid(), 'epoch' => (string) Str::ulid()]);
    }

    protected function tables(): array
    {
        return [
            'enterprise' => <<<'SQL'
                id tinyint(3) unsigned NOT NULL,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                epoch char(26) NOT NULL DEFAULT '',
                input_revision int(10) unsigned NOT NULL DEFAULT 0,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin DEFAULT NULL,
                PRIMARY KEY (id)
                SQL,
            'calendars' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                `key` varchar(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                name varchar(255) NOT NULL,
                base_id bigint(20) unsigned DEFAULT NULL,
                minutes_per_day smallint(5) unsigned DEFAULT NULL,
                week longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(week)),
                exceptions longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(exceptions)),
                retired tinyint(1) NOT NULL DEFAULT 0,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY calendars_uid_unique (uid),
                UNIQUE KEY calendars_natural_key (`key`,parked),
                KEY calendars_base_id_foreign (base_id),
                CONSTRAINT calendars_base_id_foreign FOREIGN KEY (base_id) REFERENCES calendars (id)
                SQL,
            'code_sets' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                scope varchar(20) NOT NULL,
                `key` varchar(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                name varchar(120) NOT NULL,
                position double NOT NULL DEFAULT 0,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                description varchar(500) NOT NULL DEFAULT '',
                key_length smallint(5) unsigned DEFAULT NULL,
                multiple tinyint(1) NOT NULL DEFAULT 0,
                weight double NOT NULL DEFAULT 0,
                steward varchar(255) DEFAULT NULL,
                assigned_by varchar(20) NOT NULL DEFAULT 'planner',
                added_by varchar(20) NOT NULL DEFAULT 'planner',
                edited_by varchar(20) NOT NULL DEFAULT 'administrator',
                demanded_on_id bigint(20) unsigned DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY code_sets_uid_unique (uid),
                UNIQUE KEY code_sets_natural_key (scope,`key`,parked),
                KEY code_sets_demanded_on (demanded_on_id),
                CONSTRAINT code_sets_demanded_on FOREIGN KEY (demanded_on_id) REFERENCES branches (id)
                SQL,
            'code_entries' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                code_set_id bigint(20) unsigned NOT NULL,
                parent_id bigint(20) unsigned DEFAULT NULL,
                `key` varchar(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                name varchar(120) NOT NULL,
                position double NOT NULL DEFAULT 0,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                description varchar(500) NOT NULL DEFAULT '',
                colour smallint(5) unsigned DEFAULT NULL,
                steward varchar(255) DEFAULT NULL,
                weight double NOT NULL DEFAULT 0,
                retired tinyint(1) NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY code_entries_uid_unique (uid),
                UNIQUE KEY code_entries_natural_key (code_set_id,`key`,parked),
                KEY code_entries_parent_id_foreign (parent_id),
                CONSTRAINT code_entries_code_set_id_foreign FOREIGN KEY (code_set_id) REFERENCES code_sets (id) ON DELETE CASCADE,
                CONSTRAINT code_entries_parent_id_foreign FOREIGN KEY (parent_id) REFERENCES code_entries (id)
                SQL,
            'own_fields' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                scope varchar(20) NOT NULL,
                `key` varchar(40) NOT NULL,
                name varchar(120) NOT NULL,
                type varchar(20) NOT NULL,
                choices text NOT NULL,
                description varchar(500) NOT NULL,
                required tinyint(1) NOT NULL,
                position double NOT NULL,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                formula varchar(1000) NOT NULL DEFAULT '',
                PRIMARY KEY (id),
                UNIQUE KEY own_fields_natural_key (scope,`key`,parked),
                UNIQUE KEY own_fields_uid_unique (uid)
                SQL,
            'resources' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                `key` varchar(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                name varchar(255) NOT NULL,
                kind varchar(20) NOT NULL,
                calendar_id bigint(20) unsigned DEFAULT NULL,
                units int(10) unsigned NOT NULL,
                capacity mediumtext NOT NULL,
                rate bigint(20) unsigned DEFAULT NULL,
                rates mediumtext NOT NULL,
                cost_per_use bigint(20) unsigned DEFAULT NULL,
                unit varchar(20) NOT NULL,
                price bigint(20) unsigned DEFAULT NULL,
                placeholder tinyint(1) NOT NULL DEFAULT 0,
                `from` int(11) DEFAULT NULL,
                `to` int(11) DEFAULT NULL,
                own_branch_only tinyint(1) NOT NULL DEFAULT 0,
                retired tinyint(1) NOT NULL DEFAULT 0,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY resources_natural_key (`key`,parked),
                UNIQUE KEY resources_uid_unique (uid),
                KEY resources_calendar_id_foreign (calendar_id),
                CONSTRAINT resources_calendar_id_foreign FOREIGN KEY (calendar_id) REFERENCES calendars (id)
                SQL,
            'level_schemes' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                `key` varchar(40) NOT NULL,
                name varchar(120) NOT NULL,
                levels text NOT NULL,
                activity_code text NOT NULL,
                activity_name text NOT NULL,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY level_schemes_natural_key (`key`,parked),
                UNIQUE KEY level_schemes_uid_unique (uid)
                SQL,
            'level_codes' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                scheme_id bigint(20) unsigned NOT NULL,
                parent_id bigint(20) unsigned DEFAULT NULL,
                level smallint(5) unsigned NOT NULL,
                code varchar(20) NOT NULL,
                name varchar(120) NOT NULL,
                below varchar(60) DEFAULT NULL,
                position double NOT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY level_codes_uid_unique (uid),
                KEY level_codes_scheme_id_foreign (scheme_id),
                KEY level_codes_parent_id_foreign (parent_id),
                CONSTRAINT level_codes_parent_id_foreign FOREIGN KEY (parent_id) REFERENCES level_codes (id),
                CONSTRAINT level_codes_scheme_id_foreign FOREIGN KEY (scheme_id) REFERENCES level_schemes (id)
                SQL,
        ];
    }
};
