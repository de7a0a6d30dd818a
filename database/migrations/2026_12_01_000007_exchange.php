<?php

declare(strict_types=1);

use App\Database\Tables;

/** Where things came from, what sources said last, who reads the feed, work in the background. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'external_identities' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                source varchar(190) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                kind varchar(20) NOT NULL,
                foreign_id varchar(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                told mediumtext DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY external_identities_source_kind_foreign_id_unique (source,kind,foreign_id),
                KEY external_identities_kind_uid_index (kind,uid)
                SQL,
            'told_before' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                change_set_id bigint(20) unsigned NOT NULL,
                source varchar(190) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                kind varchar(20) NOT NULL,
                foreign_id varchar(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
                told mediumtext DEFAULT NULL,
                since char(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                PRIMARY KEY (id),
                KEY told_before_change_set_id_index (change_set_id),
                CONSTRAINT told_before_change_set_id_foreign FOREIGN KEY (change_set_id) REFERENCES change_sets (id) ON DELETE CASCADE
                SQL,
            'personal_access_tokens' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                tokenable_type varchar(255) NOT NULL,
                tokenable_id bigint(20) unsigned NOT NULL,
                name varchar(255) NOT NULL,
                token varchar(64) NOT NULL,
                abilities text DEFAULT NULL,
                last_used_at timestamp NULL DEFAULT NULL,
                expires_at timestamp NULL DEFAULT NULL,
                created_at timestamp NULL DEFAULT NULL,
                updated_at timestamp NULL DEFAULT NULL,
                last_used_from varchar(45) DEFAULT NULL,
                sets text DEFAULT NULL,
                branch_id bigint(20) unsigned DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY personal_access_tokens_token_unique (token),
                KEY personal_access_tokens_tokenable_type_tokenable_id_index (tokenable_type,tokenable_id),
                KEY personal_access_tokens_expires_at_index (expires_at),
                KEY personal_access_tokens_branch_id_foreign (branch_id),
                CONSTRAINT personal_access_tokens_branch_id_foreign FOREIGN KEY (branch_id) REFERENCES branches (id) ON DELETE CASCADE
                SQL,
            'feed_states' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                token char(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                user_id bigint(20) unsigned NOT NULL,
                `set` varchar(40) NOT NULL,
                options text NOT NULL,
                `rows` longblob NOT NULL,
                base_id bigint(20) unsigned DEFAULT NULL,
                is_page tinyint(1) NOT NULL,
                created_at datetime NOT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY feed_states_token_unique (token),
                KEY feed_states_user_id_foreign (user_id),
                KEY feed_states_base_id_index (base_id),
                KEY feed_states_created_at_index (created_at),
                CONSTRAINT feed_states_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'subscriptions' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                user_id bigint(20) unsigned NOT NULL,
                secret char(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                kind varchar(20) NOT NULL,
                about varchar(255) DEFAULT NULL,
                name varchar(255) NOT NULL,
                created_at datetime NOT NULL,
                last_used_at datetime DEFAULT NULL,
                last_used_from varchar(45) DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY subscriptions_secret_unique (secret),
                KEY subscriptions_user_id_foreign (user_id),
                CONSTRAINT subscriptions_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'background_jobs' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid char(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                user_id bigint(20) unsigned NOT NULL,
                what varchar(20) NOT NULL,
                title varchar(255) NOT NULL,
                state varchar(10) NOT NULL DEFAULT 'waiting',
                step varchar(20) NOT NULL DEFAULT '',
                done int(10) unsigned NOT NULL DEFAULT 0,
                total int(10) unsigned NOT NULL DEFAULT 0,
                cancel tinyint(1) NOT NULL DEFAULT 0,
                input longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(input)),
                result longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(result)),
                problem longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(problem)),
                created_at datetime NOT NULL,
                seen_at datetime DEFAULT NULL,
                ended_at datetime DEFAULT NULL,
                file longblob DEFAULT NULL,
                branches mediumtext DEFAULT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY background_jobs_uid_unique (uid),
                KEY background_jobs_user_id_foreign (user_id),
                KEY background_jobs_state_index (state),
                CONSTRAINT background_jobs_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
        ];
    }
};
