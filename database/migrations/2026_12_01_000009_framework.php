<?php

declare(strict_types=1);

use App\Database\Tables;

/** What the framework keeps: a queue and a cache. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'jobs' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                queue varchar(255) NOT NULL,
                payload longtext NOT NULL,
                attempts tinyint(3) unsigned NOT NULL,
                reserved_at int(10) unsigned DEFAULT NULL,
                available_at int(10) unsigned NOT NULL,
                created_at int(10) unsigned NOT NULL,
                PRIMARY KEY (id),
                KEY jobs_queue_index (queue)
                SQL,
            'failed_jobs' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uuid varchar(255) NOT NULL,
                connection text NOT NULL,
                queue text NOT NULL,
                payload longtext NOT NULL,
                exception longtext NOT NULL,
                failed_at timestamp NOT NULL DEFAULT current_timestamp(),
                PRIMARY KEY (id),
                UNIQUE KEY failed_jobs_uuid_unique (uuid)
                SQL,
            'cache' => <<<'SQL'
                `key` varchar(255) NOT NULL,
                value mediumtext NOT NULL,
                expiration int(11) NOT NULL,
                PRIMARY KEY (`key`),
                KEY cache_expiration_index (expiration)
                SQL,
            'cache_locks' => <<<'SQL'
                `key` varchar(255) NOT NULL,
                owner varchar(255) NOT NULL,
                expiration int(11) NOT NULL,
                PRIMARY KEY (`key`),
                KEY cache_locks_expiration_index (expiration)
                SQL,
        ];
    }
};
