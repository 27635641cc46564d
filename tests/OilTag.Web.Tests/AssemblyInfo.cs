// The product and its tests run on Debian.
[assembly: System.Runtime.Versioning.SupportedOSPlatform("linux")]

// Commands are counted for the whole process, so one test runs at a time.
[assembly: Xunit.v3.Parallelization(Mode = Xunit.Sdk.ParallelMode.None)]
