<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

/**
 * The catalogue of checks.
 *
 * Sources, all limits from memory: GAO = U.S. Government Accountability Office, "Schedule Assessment Guide: Best Practices
 * for Project Schedules", GAO-16-89G (2015), by best practice; 14-point = the 14-point schedule assessment, Defense
 * Contract Management Agency, "Earned Value Management System Program Analysis Pamphlet", DCMA-EA PAM 200.1 (2012), by
 * point. What neither states is ours and said so in {@see source()}.
 */
enum Check: string
{
    case MissingPredecessor = 'missing-predecessor';
    case MissingSuccessor = 'missing-successor';
    case DanglingStart = 'dangling-start';
    case DanglingFinish = 'dangling-finish';
    case Leads = 'leads';
    case LongLags = 'long-lags';
    case LinkTypes = 'link-types';
    case ViolatedLinks = 'violated-links';
    case RedundantLinks = 'redundant-links';
    case HardConstraints = 'hard-constraints';
    case LongDurations = 'long-durations';
    case UnconfirmedEstimates = 'unconfirmed-estimates';
    case ResourcesMissing = 'resources-missing';
    case UnnamedWork = 'unnamed-work';
    case AwayResources = 'away-resources';
    case RetiredResources = 'retired-resources';
    case MissingRates = 'missing-rates';
    case NegativeFloat = 'negative-float';
    case HighFloat = 'high-float';
    case InvalidDates = 'invalid-dates';
    case OutOfSequence = 'out-of-sequence';
    case MissedBaseline = 'missed-baseline';
    case UnagreedHandovers = 'unagreed-handovers';
    case PathContinuity = 'path-continuity';
    case PathLengthIndex = 'path-length-index';
    case ExecutionIndex = 'execution-index';
    case MisfitValues = 'misfit-values';

    public function severity(): Severity
    {
        return match ($this) {
            self::MissingPredecessor, self::MissingSuccessor, self::ViolatedLinks, self::NegativeFloat, self::InvalidDates,
            self::PathContinuity => Severity::Broken,
            self::UnconfirmedEstimates, self::RedundantLinks, self::ResourcesMissing, self::UnnamedWork,
            self::MissingRates => Severity::Note,
            default => Severity::Attention,
        };
    }

    public function unit(): Unit
    {
        return match ($this) {
            self::PathContinuity, self::PathLengthIndex, self::ExecutionIndex => Unit::Index,
            default => Unit::Share,
        };
    }

    /** Days from which a value counts as long or high (days of delay for the path test); null where there is nothing to set. */
    public function days(): ?float
    {
        return match ($this) {
            self::LongLags => 5.0,
            self::LongDurations, self::HighFloat => 44.0,
            self::PathContinuity => 100.0,
            default => null,
        };
    }

    /** Largest share in percent, or least index, that is still fine. */
    public function limit(): float
    {
        return match ($this) {
            self::MissingPredecessor, self::MissingSuccessor, self::LongLags, self::HardConstraints, self::LongDurations, self::HighFloat,
            self::MissedBaseline => 5.0,
            self::LinkTypes => 10.0,
            self::PathContinuity, self::PathLengthIndex, self::ExecutionIndex => 0.95,
            default => 0.0,
        };
    }

    public function source(): string
    {
        return match ($this) {
            self::MissingPredecessor, self::MissingSuccessor => 'GAO best practice 2; 14-point, point 1 (logic, 5 %)',
            self::DanglingStart, self::DanglingFinish => 'GAO best practice 2 (dangling activities); limit ours',
            self::Leads => 'GAO best practice 2; 14-point, point 2 (leads, none)',
            self::LongLags => 'GAO best practice 2; 14-point, point 3 (lags, 5 %); days ours',
            self::LinkTypes => 'GAO best practice 2; 14-point, point 4 (relationship types, at least 90 % finish to start)',
            self::ViolatedLinks => 'GAO best practice 2 (constraints that override logic); limit ours',
            self::RedundantLinks => 'GAO best practice 2 (redundant logic); limit ours',
            self::HardConstraints => 'GAO best practice 2; 14-point, point 5 (hard constraints, 5 %)',
            self::LongDurations => 'GAO best practice 4; 14-point, point 8 (high duration, 44 d, 5 %)',
            self::UnconfirmedEstimates => 'GAO best practice 4 (durations are estimated and confirmed); limit ours',
            self::ResourcesMissing => 'GAO best practice 3; 14-point, point 10 (resources)',
            self::UnnamedWork, self::AwayResources,
            self::RetiredResources => 'GAO best practice 3 (resources are there when they are needed);'
            .' limit ours',
            self::MissingRates => 'ours: what an hour, or a unit, costs is known before costs are added up',
            self::NegativeFloat => 'GAO best practice 7; 14-point, point 7 (negative float, none)',
            self::HighFloat => 'GAO best practice 7; 14-point, point 6 (high float, 44 d, 5 %)',
            self::InvalidDates => 'GAO best practice 9; 14-point, point 9 (invalid dates, none)',
            self::OutOfSequence => 'GAO best practice 9 (out-of-sequence logic); limit ours',
            self::MissedBaseline => 'GAO best practice 10; 14-point, point 11 (missed tasks, 5 %)',
            self::UnagreedHandovers => 'GAO best practice 5 (horizontal traceability, giver and taker agree); limit ours',
            self::PathContinuity => 'GAO best practice 6; 14-point, point 12 (critical path test); tolerance ours',
            self::PathLengthIndex => 'GAO best practice 6; 14-point, point 13 (critical path length index, 0.95)',
            self::ExecutionIndex => 'GAO best practice 10; 14-point, point 14 (baseline execution index, 0.95)',
            self::MisfitValues => 'ours: own fields hold what their type says',
        };
    }
}
