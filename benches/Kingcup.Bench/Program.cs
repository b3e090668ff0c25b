using BenchmarkDotNet.Running;
using Kingcup.Bench;

BenchmarkSwitcher.FromTypes([typeof(OfferedStarts)]).Run(args);
