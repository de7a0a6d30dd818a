<?php

declare(strict_types=1);

use App\Database\Tables;

/** What follows from the plans; each row carries the revision at which it changed. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'project_dates' => <<<'SQL'
                project_id bigint(20) unsigned NOT NULL,
                start int(11) DEFAULT NULL,
                finish int(11) DEFAULT NULL,
                duration int(10) unsigned NOT NULL,
                total_float int(11) DEFAULT NULL,
                critical tinyint(1) NOT NULL,
                planned bigint(20) unsigned NOT NULL,
                done bigint(20) unsigned NOT NULL,
                finished tinyint(1) NOT NULL,
                margin int(11) DEFAULT NULL,
                work bigint(20) unsigned NOT NULL DEFAULT 0,
                cost bigint(20) unsigned NOT NULL DEFAULT 0,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (project_id),
                CONSTRAINT project_dates_project_id_foreign FOREIGN KEY (project_id) REFERENCES projects (id) ON DELETE CASCADE
                SQL,
            'wbs_dates' => <<<'SQL'
                wbs_id bigint(20) unsigned NOT NULL,
                start int(11) DEFAULT NULL,
                finish int(11) DEFAULT NULL,
                duration int(10) unsigned NOT NULL,
                total_float int(11) DEFAULT NULL,
                critical tinyint(1) NOT NULL,
                planned bigint(20) unsigned NOT NULL,
                done bigint(20) unsigned NOT NULL,
                finished tinyint(1) NOT NULL,
                margin int(11) DEFAULT NULL,
                work bigint(20) unsigned NOT NULL DEFAULT 0,
                cost bigint(20) unsigned NOT NULL DEFAULT 0,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (wbs_id),
                CONSTRAINT wbs_dates_wbs_id_foreign FOREIGN KEY (wbs_id) REFERENCES wbs_elements (id) ON DELETE CASCADE
                SQL,
            'activity_dates' => <<<'SQL'
                activity_id bigint(20) unsigned NOT NULL,
                start int(11) NOT NULL,
                finish int(11) NOT NULL,
                late_start int(11) DEFAULT NULL,
                late_finish int(11) DEFAULT NULL,
                total_float int(11) DEFAULT NULL,
                free_float int(11) DEFAULT NULL,
                critical tinyint(1) NOT NULL,
                near_critical tinyint(1) NOT NULL,
                percent int(10) unsigned NOT NULL DEFAULT 0,
                remaining_start int(11) NOT NULL,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (activity_id),
                CONSTRAINT activity_dates_activity_id_foreign FOREIGN KEY (activity_id) REFERENCES activities (id) ON DELETE CASCADE
                SQL,
            'link_dates' => <<<'SQL'
                link_id bigint(20) unsigned NOT NULL,
                link_float int(11) DEFAULT NULL,
                driving tinyint(1) NOT NULL,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                giver_revision int(10) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (link_id),
                CONSTRAINT link_dates_link_id_foreign FOREIGN KEY (link_id) REFERENCES links (id) ON DELETE CASCADE
                SQL,
            'handover_dates' => <<<'SQL'
                link_id bigint(20) unsigned NOT NULL,
                forecast int(11) DEFAULT NULL,
                margin int(11) DEFAULT NULL,
                state varchar(10) NOT NULL,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                PRIMARY KEY (link_id),
                KEY handover_dates_state_index (state),
                CONSTRAINT handover_dates_link_id_foreign FOREIGN KEY (link_id) REFERENCES links (id) ON DELETE CASCADE
                SQL,
            'project_health' => <<<'SQL'
                project_id bigint(20) unsigned NOT NULL,
                state varchar(100) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                broken smallint(5) unsigned NOT NULL,
                attention smallint(5) unsigned NOT NULL,
                PRIMARY KEY (project_id),
                CONSTRAINT project_health_project_id_foreign FOREIGN KEY (project_id) REFERENCES projects (id) ON DELETE CASCADE
                SQL,
        ];
    }
};
