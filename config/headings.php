<?php

declare(strict_types=1);

// What columns of tables are called here, beside what Reihe knows (core/src/Pasting/Headings.php): meaning => words, for example
// 'duration' => ['Solldauer', 'plan days'], 'code' => ['Auftrag']. The meanings are those of Reihe\Core\Pasting\Meaning.
return [];
