// One browser for all tests.
[assembly: System.Runtime.Versioning.SupportedOSPlatform("linux")]
[assembly: Xunit.v3.Parallelization(Mode = Xunit.Sdk.ParallelMode.None)]
[assembly: AssemblyFixture(typeof(OilTag.Browser.Tests.OneBrowser))]
