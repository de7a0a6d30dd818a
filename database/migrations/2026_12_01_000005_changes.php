<?php

declare(strict_types=1);

use App\Database\Tables;

/** Change sets, what they changed object by object, and what people are told of them. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'change_sets' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                author_id bigint(20) unsigned DEFAULT NULL,
                source varchar(20) NOT NULL,
                reason varchar(500) NOT NULL DEFAULT '',
                state varchar(20) NOT NULL,
                operations longtext NOT NULL,
                ripple longtext NOT NULL,
                undoes_id bigint(20) unsigned DEFAULT NULL,
                created_at datetime NOT NULL,
                decided_at datetime DEFAULT NULL,
                operation_count int(10) unsigned NOT NULL DEFAULT 0,
                decided_by bigint(20) unsigned DEFAULT NULL,
                items longtext CHARACTER SET ascii COLLATE ascii_general_ci DEFAULT NULL,
                part_of_id bigint(20) unsigned DEFAULT NULL,
                exchanged_with varchar(190) DEFAULT NULL,
                identities longtext DEFAULT NULL,
                step varchar(64) CHARACTER SET ascii COLLATE ascii_bin DEFAULT NULL,
                draft_uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin DEFAULT NULL,
                applied_at datetime(6) DEFAULT NULL,
                baselines longtext DEFAULT NULL,
                preview longtext DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY change_sets_uid_unique (uid),
                KEY change_sets_author_id_foreign (author_id),
                KEY change_sets_undoes_id_foreign (undoes_id),
                KEY change_sets_state_index (state),
                KEY change_sets_created_at_index (created_at),
                KEY change_sets_decided_by_foreign (decided_by),
                KEY change_sets_part_of_id_foreign (part_of_id),
                KEY change_sets_applied_at_index (applied_at),
                CONSTRAINT change_sets_author_id_foreign FOREIGN KEY (author_id) REFERENCES users (id) ON DELETE SET NULL,
                CONSTRAINT change_sets_decided_by_foreign FOREIGN KEY (decided_by) REFERENCES users (id) ON DELETE SET NULL,
                CONSTRAINT change_sets_part_of_id_foreign FOREIGN KEY (part_of_id) REFERENCES change_sets (id) ON DELETE SET NULL,
                CONSTRAINT change_sets_undoes_id_foreign FOREIGN KEY (undoes_id) REFERENCES change_sets (id) ON DELETE SET NULL
                SQL,
            'change_set_projects' => <<<'SQL'
                change_set_id bigint(20) unsigned NOT NULL,
                project_uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                revision int(10) unsigned NOT NULL,
                PRIMARY KEY (project_uid,revision,change_set_id),
                KEY change_set_projects_change_set_id_foreign (change_set_id),
                CONSTRAINT change_set_projects_change_set_id_foreign FOREIGN KEY (change_set_id) REFERENCES change_sets (id)
                    ON DELETE CASCADE
                SQL,
            'plan_changes' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                change_set_id bigint(20) unsigned NOT NULL,
                project_uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                revision int(10) unsigned NOT NULL,
                kind varchar(20) NOT NULL,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                verb varchar(10) NOT NULL,
                field varchar(80) NOT NULL,
                PRIMARY KEY (id),
                KEY plan_changes_change_set_id_foreign (change_set_id),
                KEY plan_changes_project_uid_revision_index (project_uid,revision),
                KEY plan_changes_uid_change_set_id_index (uid,change_set_id),
                KEY plan_changes_kind_verb_index (kind,verb,change_set_id),
                CONSTRAINT plan_changes_change_set_id_foreign FOREIGN KEY (change_set_id) REFERENCES change_sets (id) ON DELETE CASCADE
                SQL,
            'date_moves' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                change_set_id bigint(20) unsigned NOT NULL,
                project_uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                moves longblob NOT NULL,
                PRIMARY KEY (id),
                KEY date_moves_change_set_id_foreign (change_set_id),
                KEY date_moves_project (project_uid,id),
                CONSTRAINT date_moves_change_set_id_foreign FOREIGN KEY (change_set_id) REFERENCES change_sets (id) ON DELETE CASCADE
                SQL,
            'drafts' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                user_id bigint(20) unsigned NOT NULL,
                name varchar(120) NOT NULL,
                shared tinyint(1) NOT NULL DEFAULT 0,
                revision int(10) unsigned NOT NULL DEFAULT 0,
                steps longtext NOT NULL,
                undone longtext NOT NULL,
                changed_at datetime NOT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY drafts_uid_unique (uid),
                KEY drafts_user_id_id_index (user_id,id),
                CONSTRAINT drafts_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'notices' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                user_id bigint(20) unsigned NOT NULL,
                author varchar(120) NOT NULL,
                project_id bigint(20) unsigned DEFAULT NULL,
                activity varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                remark varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                text varchar(300) NOT NULL,
                created_at datetime NOT NULL,
                read_at datetime DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY notices_user_id_remark_unique (user_id,remark),
                KEY notices_project_id_foreign (project_id),
                CONSTRAINT notices_project_id_foreign FOREIGN KEY (project_id) REFERENCES projects (id) ON DELETE CASCADE,
                CONSTRAINT notices_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'branch_remarks' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                branch varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                answers_id bigint(20) unsigned DEFAULT NULL,
                text text NOT NULL,
                author varchar(120) NOT NULL,
                written int(11) NOT NULL,
                todo tinyint(1) NOT NULL DEFAULT 0,
                done tinyint(1) NOT NULL DEFAULT 0,
                removed tinyint(1) NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY branch_remarks_uid_unique (uid),
                KEY branch_remarks_branch_index (branch,id),
                KEY branch_remarks_todo_index (todo,done),
                KEY branch_remarks_answers_id_foreign (answers_id),
                CONSTRAINT branch_remarks_answers_id_foreign FOREIGN KEY (answers_id) REFERENCES branch_remarks (id) ON DELETE CASCADE
                SQL,
            'visits' => <<<'SQL'
                user_id bigint(20) unsigned NOT NULL,
                project_id bigint(20) unsigned NOT NULL,
                seen_at datetime NOT NULL,
                before_at datetime NOT NULL,
                PRIMARY KEY (user_id,project_id),
                KEY visits_project_id_foreign (project_id),
                CONSTRAINT visits_project_id_foreign FOREIGN KEY (project_id) REFERENCES projects (id) ON DELETE CASCADE,
                CONSTRAINT visits_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
        ];
    }
};
