<?php

declare(strict_types=1);

use App\Database\Tables;

/** Who signs in, the hierarchy, and who may do what in which branch. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'users' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                name varchar(255) NOT NULL,
                email varchar(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                password varchar(255) NOT NULL,
                demo tinyint(1) NOT NULL DEFAULT 0,
                remember_token varchar(100) DEFAULT NULL,
                created_at timestamp NULL DEFAULT NULL,
                updated_at timestamp NULL DEFAULT NULL,
                active tinyint(1) NOT NULL DEFAULT 1,
                must_change tinyint(1) NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY users_email_unique (email)
                SQL,
            'branches' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                parent_id bigint(20) unsigned DEFAULT NULL,
                name varchar(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                path varchar(400) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
                position double NOT NULL DEFAULT 0,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                parked bigint(20) unsigned NOT NULL DEFAULT 0,
                lead varchar(255) DEFAULT NULL,
                archived tinyint(1) NOT NULL DEFAULT 0,
                PRIMARY KEY (id),
                UNIQUE KEY branches_uid_unique (uid),
                UNIQUE KEY branches_natural_key (parent_id,name,parked),
                KEY branches_path_index (path),
                CONSTRAINT branches_parent_id_foreign FOREIGN KEY (parent_id) REFERENCES branches (id)
                SQL,
            'grants' => <<<'SQL'
                user_id bigint(20) unsigned NOT NULL,
                branch_id bigint(20) unsigned NOT NULL,
                role varchar(20) NOT NULL,
                PRIMARY KEY (user_id,branch_id),
                KEY grants_branch_kept (branch_id),
                CONSTRAINT grants_branch_kept FOREIGN KEY (branch_id) REFERENCES branches (id),
                CONSTRAINT grants_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'access_history' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                author_id bigint(20) unsigned DEFAULT NULL,
                user_id bigint(20) unsigned NOT NULL,
                what varchar(20) NOT NULL,
                branch_id bigint(20) unsigned DEFAULT NULL,
                detail varchar(160) DEFAULT NULL,
                created_at datetime NOT NULL,
                PRIMARY KEY (id),
                KEY access_history_author_id_foreign (author_id),
                KEY access_history_user_id_foreign (user_id),
                KEY access_history_branch_id_foreign (branch_id),
                KEY access_history_created_at_index (created_at),
                CONSTRAINT access_history_author_id_foreign FOREIGN KEY (author_id) REFERENCES users (id) ON DELETE SET NULL,
                CONSTRAINT access_history_branch_id_foreign FOREIGN KEY (branch_id) REFERENCES branches (id) ON DELETE SET NULL,
                CONSTRAINT access_history_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'owners' => <<<'SQL'
                kind varchar(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                branch varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                PRIMARY KEY (kind,uid)
                SQL,
            'attempts' => <<<'SQL'
                of char(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                count int(10) unsigned NOT NULL,
                until bigint(20) unsigned NOT NULL,
                PRIMARY KEY (of)
                SQL,
            'sessions' => <<<'SQL'
                id varchar(255) NOT NULL,
                user_id bigint(20) unsigned DEFAULT NULL,
                ip_address varchar(45) DEFAULT NULL,
                user_agent text DEFAULT NULL,
                payload longtext NOT NULL,
                last_activity int(11) NOT NULL,
                PRIMARY KEY (id),
                KEY sessions_user_id_index (user_id),
                KEY sessions_last_activity_index (last_activity)
                SQL,
            'settings' => <<<'SQL'
                `key` varchar(40) NOT NULL,
                value longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(value)),
                PRIMARY KEY (`key`)
                SQL,
        ];
    }
};
