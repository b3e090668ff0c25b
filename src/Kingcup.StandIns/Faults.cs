using System.Collections.Concurrent;

namespace Kingcup.StandIns;

/// <summary>
/// Goes wrong so many times from now on: "lost" does what was asked and drops the answer, "error" does nothing, "slow" waits.
/// </summary>
internal sealed record FaultRequest(string Operation, string Kind, int Times);

/// <summary>What is to go wrong, on order.</summary>
internal static class Faults
{
    private static readonly ConcurrentDictionary<string, (string Kind, int Times)> _faults = new();

    /// <summary>Orders a fault.</summary>
    internal static void Set(FaultRequest fault) => _faults[fault.Operation] = (fault.Kind, fault.Times);

    /// <summary>What goes wrong with an operation this time, or null.</summary>
    internal static string? Next(string operation)
    {
        (string Kind, int Times) fault = _faults.GetValueOrDefault(operation);
        if (fault.Times <= 0) return null;
        _faults[operation] = (fault.Kind, fault.Times - 1);
        return fault.Kind;
    }
}
