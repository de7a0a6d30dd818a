<?php

declare(strict_types=1);

use App\Database\Tables;

/** Plans as they were when they were agreed. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'baselines' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                project_uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                name varchar(120) NOT NULL,
                taken int(11) NOT NULL,
                author_id bigint(20) unsigned DEFAULT NULL,
                current tinyint(1) NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY baselines_uid_unique (uid),
                KEY baselines_author_id_foreign (author_id),
                KEY baselines_project_uid_current_index (project_uid,current),
                CONSTRAINT baselines_author_id_foreign FOREIGN KEY (author_id) REFERENCES users (id) ON DELETE SET NULL
                SQL,
            'baseline_rows' => <<<'SQL'
                baseline_id bigint(20) unsigned NOT NULL,
                kind varchar(10) NOT NULL,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                code varchar(60) NOT NULL,
                name varchar(255) NOT NULL,
                start int(11) NOT NULL,
                finish int(11) NOT NULL,
                duration int(10) unsigned NOT NULL,
                work int(10) unsigned NOT NULL,
                cost bigint(20) unsigned NOT NULL,
                PRIMARY KEY (baseline_id,kind,uid),
                CONSTRAINT baseline_rows_baseline_id_foreign FOREIGN KEY (baseline_id) REFERENCES baselines (id) ON DELETE CASCADE
                SQL,
        ];
    }
};
