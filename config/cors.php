<?php

declare(strict_types=1);

// No other origin may read answers in a browser; programs outside browsers use tokens and do not need this.
return ['paths' => [], 'allowed_origins' => []];
