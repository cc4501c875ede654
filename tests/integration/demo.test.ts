import "./demo/recording";
import "./demo/codesMigration";
