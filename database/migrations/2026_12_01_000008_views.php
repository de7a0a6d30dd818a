<?php

declare(strict_types=1);

use App\Database\Tables;

/** How people look at plans. */
return new class extends Tables
{
    protected function tables(): array
    {
        return [
            'views' => <<<'SQL'
                id bigint(20) unsigned NOT NULL AUTO_INCREMENT,
                uid varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
                user_id bigint(20) unsigned NOT NULL,
                place varchar(20) NOT NULL,
                name varchar(120) NOT NULL,
                shared tinyint(1) NOT NULL DEFAULT 0,
                definition text NOT NULL,
                PRIMARY KEY (id),
                UNIQUE KEY views_uid_unique (uid),
                KEY views_user_id_foreign (user_id),
                KEY views_place_user_id_index (place,user_id),
                CONSTRAINT views_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
                SQL,
            'first_views' => <<<'SQL'
                user_id bigint(20) unsigned NOT NULL,
                place varchar(20) NOT NULL,
                view_id bigint(20) unsigned NOT NULL,
                PRIMARY KEY (user_id,place),
                KEY first_views_view_id_foreign (view_id),
                CONSTRAINT first_views_user_id_foreign FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE,
                CONSTRAINT first_views_view_id_foreign FOREIGN KEY (view_id) REFERENCES views (id) ON DELETE CASCADE
                SQL,
        ];
    }
};
