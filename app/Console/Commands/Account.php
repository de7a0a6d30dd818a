<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Access\Accounts;
use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** The way in when nobody can sign in any more: a new first password, or a new administrator. For who runs the machine. */
final class Account extends Command
{
    protected $signature = 'reihe:account {email : of a user, or of one to be made} {--name= : of one to be made} '
        .'{--administrator : also make them administrator of everything}';

    protected $description = 'Give a user a first password, shown only now; make the user, or an administrator of them';

    public function handle(): int
    {
        $email = User::address((string) $this->argument('email'));
        if (filter_var($email, FILTER_VALIDATE_EMAIL) === false) {
            $this->error("{$email} is no e-mail address.");

            return self::INVALID;
        }
        $isNew = ! User::query()->where('email', $email)->exists();
        if ($isNew && $this->option('administrator') === false) {
            $this->error("There is no user with the address {$email}; with --administrator one is made.");

            return self::FAILURE;
        }
        $password = DB::transaction(fn (): string => Accounts::fromTheMachine($email,
            is_string($this->option('name')) ? $this->option('name') : $email, $this->option('administrator') === true));
        $this->line("{$email} signs in with the first password {$password} (shown only now) and chooses another one then.");

        return self::SUCCESS;
    }
}
