using OilTag.PlanBench;

// make FOLDER: writes the instances. exact FOLDER SECONDS: solves them with the yardstick and keeps what it found. Anything else: times the engine.
return args switch
{
    ["make", var folder] => Instances.Make(folder),
    ["exact", var folder, var seconds] => Instances.Exact(folder, double.Parse(seconds, System.Globalization.CultureInfo.InvariantCulture)),
    ["check", var count] => ShedBench.Check(int.Parse(count, System.Globalization.CultureInfo.InvariantCulture)),
    ["shed"] => ShedBench.Run([250, 500, 1000, 2000, 4000]),
    ["shed", var operations] => ShedBench.Run([int.Parse(operations, System.Globalization.CultureInfo.InvariantCulture)]),
    ["day"] => DayBench.Run(),
    ["stable", var file, var sheds] => StableBench.Run(file, int.Parse(sheds, System.Globalization.CultureInfo.InvariantCulture)),
    [var folder, ..] => ProjectBench.Run(folder, args.Length > 1 ? double.Parse(args[1], System.Globalization.CultureInfo.InvariantCulture) : 1),
    _ => 2,
};
